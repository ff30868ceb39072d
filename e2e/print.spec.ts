import { expect, noSeriousFaults, ownDemo, test } from './bench';

test('the packet is printed by a printer whose bar was measured, sheets as chosen, on the paper that was chosen last', async ({
  page,
}) => {
  const { id, run } = await ownDemo(page);
  await page.goto(`/jobs/${id}/runs/${run}/cut`);
  await page.getByRole('button', { name: 'Print…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Print the run' });
  await noSeriousFaults(page);
  const open = dialog.getByRole('link', { name: 'Open the PDF' });
  const pdf = async () => {
    const answer = await page.request.get((await open.getAttribute('href')) ?? '');
    expect(answer.headers()['content-type']).toContain('application/pdf');
    expect(answer.headers()['content-disposition']).toMatch(/^inline/);
    return (await answer.body()).subarray(0, 5).toString();
  };
  expect(await pdf()).toBe('%PDF-');

  await dialog.getByLabel('Another printer').fill('Shed printer');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog).toContainText('not measured');
  await dialog.getByLabel('The 100 mm bar measures').fill('12');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('alert').first()).toContainText('between 97 and 103');
  await dialog.getByLabel('The 100 mm bar measures').fill('98.5');
  await page.keyboard.press('Enter');
  await expect(dialog).toContainText('made as much larger or smaller');
  await expect(open).toHaveAttribute('href', /printer=\d+/);
  expect(await pdf()).toBe('%PDF-');

  await dialog.getByRole('combobox', { name: 'Paper' }).click();
  await page.getByRole('option', { name: 'Letter' }).click();
  await dialog.getByRole('checkbox', { name: 'Cut list' }).uncheck();
  await expect(open).toHaveAttribute('href', /paper=letter/);
  await page.goto(`/jobs/${id}/stock`);
  await page.getByRole('button', { name: 'Print…' }).click();
  const vehicle = page.getByRole('dialog', { name: 'Print the vehicle' });
  await expect(vehicle.getByRole('link', { name: 'Open the PDF' })).toHaveAttribute('href', /paper=letter/);
  await noSeriousFaults(page);
  await page.request.delete(`/api/jobs/${id}`);
});
