import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a bend becomes a moulded elbow, a neck is sawn and turned, and a pipe goes on from a stub', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  const job = JSON.parse(file).job;
  const called = (name: string) => job.runs.find((run: { name: string }) => run.name === name).id;
  const line = called('Bottom coolant line');
  const rod = page.getByRole('region', { name: 'Story rod' });

  await page.goto(`/jobs/${id}/runs/${line}/route`);
  await rod.getByRole('button', { name: /^Bend 1,/ }).click();
  await page.getByRole('button', { name: 'Moulded hose' }).click();
  await expect(rod.getByRole('button', { name: /^Bend 1, .* a moulded elbow$/ })).toBeVisible();
  await expect(page.getByText('Elbow to buy')).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'What it gives, its clamps and its seats' }).click();

  await page.goto(`/jobs/${id}/runs/${line}/measure`);
  await page.getByText('B · water pump inlet').click();
  await page.getByRole('button', { name: 'Saw its neck back or turn it' }).click();
  const type = async (label: string, text: string) => {
    await page.getByLabel(label, { exact: true }).fill(text);
    await page.getByLabel(label, { exact: true }).press('Enter');
  };
  await type('Long now, B', '90');
  await type('Saw off, B', '12');
  const neck = page.getByRole('region', { name: 'Neck of B' });
  await expect(neck).toContainText('78.0 mm are left');
  // More than there is is refused, and nothing is lost.
  await type('Saw off, B', '95');
  await expect(page.getByText('nothing would be left')).toBeVisible();
  await page.goto(`/jobs/${id}/runs/${line}/measure`);
  await page.getByText('B · water pump inlet').click();
  await expect(neck).toContainText('78.0 mm are left');
  await page.getByRole('button', { name: 'Turn it', exact: true }).click();
  await type('Turned to pitch, B', '5');
  await expect(neck).toContainText('Turn the end half round');
  await noSeriousFaults(page);
  const template = await neck.getByRole('link', { name: 'Template 1:1 (SVG)' }).getAttribute('href');
  expect(await (await page.request.get(template ?? '')).text()).toContain('neck 38.1 mm');
  await page.goto(`/jobs/${id}/runs/${line}/cut`);
  const beside = page.getByRole('region', { name: 'Cut beside the tube' });
  await expect(beside).toContainText('On the car first: water pump inlet.');
  await expect(beside).toContainText('Moulded elbow at bend 1');

  // The free mouth of another pipe is put on the stub that is let into the intake, and follows it.
  await page.goto(`/jobs/${id}/runs/${called('Turbo oil feed')}/measure`);
  await page.getByText('A · oil gallery').click();
  await page.getByRole('combobox', { name: 'Goes on from' }).click();
  await page.getByRole('option', { name: 'The recirculation stub of Intake pipe' }).click();
  await expect(page.getByText('goes wherever that goes')).toBeVisible();
  await page.goto(`/jobs/${id}/runs/${called('Intake pipe')}/join`);
  await rod.getByRole('button', { name: /^Recirculation stub/ }).click();
  await expect(page.getByRole('button', { name: 'Turbo oil feed' })).toBeVisible();
  await page.getByRole('button', { name: 'Take it out' }).click();
  await expect(page.getByText('let the mouth go first')).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});
