import { expect, noSeriousFaults, ownDemo, test } from './bench';

const lan = 'https://127.0.0.1:8399';

test('a phone is paired over TLS and cuts a run from its cards, which the computer sees at once', async ({
  page: computer,
  browser,
}) => {
  const { id, run } = await ownDemo(computer, 'Van at the phone');
  const garage = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
    baseURL: lan,
    // Nobody has told this phone to trust the certificate.
    ignoreHTTPSErrors: true,
  });
  const phone = await garage.newPage();

  // Nothing but the page where one pairs, wherever it is asked.
  await phone.goto(`/jobs/${id}`);
  await expect(phone.getByRole('heading', { name: 'Pair this device' })).toBeVisible();
  await noSeriousFaults(phone);
  expect((await phone.request.get(`/api/jobs/${id}`)).status()).toBe(401);

  await computer.goto(`/jobs/${id}`);
  await computer.getByRole('button', { name: 'To the phone' }).click();
  const dialog = computer.getByRole('dialog', { name: 'To the phone' });
  const shown = dialog.getByRole('status', { name: 'Pairing code' });
  await expect(shown).toHaveText(/^\d{4} \d{4}$/);
  await expect(dialog.getByText(lan, { exact: true })).toBeVisible();
  await expect(dialog.getByText(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)).toBeVisible();
  await noSeriousFaults(computer);
  const code = (await shown.textContent()) ?? '';

  await phone.getByLabel('Code').fill(code === '0000 0000' ? '1' : '0000 0000');
  await phone.getByRole('button', { name: 'Pair it' }).click();
  await expect(phone.getByRole('alert')).toContainText('not the code');
  await phone.getByLabel('Code').fill(code);
  await phone.getByLabel('What you call this device').fill('Glovebox phone');
  await phone.getByRole('button', { name: 'Pair it' }).click();
  await expect(phone.getByRole('link', { name: 'Van at the phone', exact: true })).toBeVisible();
  const devices = dialog.getByRole('region', { name: 'Paired devices' });
  await expect(devices.getByText('Glovebox phone')).toBeVisible();
  await expect(dialog.getByText('No code is out')).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();

  await computer.goto(`/jobs/${id}/runs/${run}/cut`);
  await expect(computer.getByRole('table', { name: 'Cut list' })).toBeVisible();
  const ticked = computer.getByRole('checkbox', { checked: true });
  await expect(ticked).toHaveCount(0);

  // From the rack's list to a run's cards.
  await phone.getByRole('link', { name: 'Van at the phone', exact: true }).click();
  await expect(phone.getByRole('button', { name: 'To the phone' })).toHaveCount(0);
  await phone
    .getByRole('list', { name: 'Runs' })
    .getByRole('link', { name: /Hot side/ })
    .click();
  await phone.getByRole('link', { name: 'Bench cards' }).click();
  await expect(phone.getByText('scribe the stick')).toBeVisible();
  // What a browser denies a page whose certificate it was not told to trust is said.
  await expect(phone.getByText('Leave this page open')).toBeVisible();
  await noSeriousFaults(phone);
  await phone.getByRole('button', { name: 'They are scribed' }).click();
  await expect(phone.getByText(/cut 1 of \d+/)).toBeVisible();
  await noSeriousFaults(phone);
  await phone.getByRole('button', { name: 'Cut it is' }).click();
  await expect(phone.getByText(/cut 2 of \d+/)).toBeVisible();
  await expect(ticked).toHaveCount(1);

  // Taken back from the card itself, and done again.
  await phone.getByRole('button', { name: 'Back', exact: true }).click();
  await phone.getByRole('button', { name: 'Not after all' }).click();
  await expect(ticked).toHaveCount(0);
  await phone.getByRole('button', { name: 'Cut it is' }).click();
  await expect(ticked).toHaveCount(1);

  // One comes out too long: what it came to is kept, and the computer says what that does to the pipe.
  await phone.getByRole('button', { name: 'Went wrong' }).click();
  const wrong = phone.getByRole('region', { name: 'What went wrong' });
  await noSeriousFaults(phone);
  await wrong.getByRole('textbox', { name: /^Longest line/ }).fill('33 bananas');
  await wrong.getByRole('button', { name: 'Keep it so' }).click();
  await expect(wrong.getByRole('alert')).toBeVisible();
  await wrong.getByRole('textbox', { name: /^Longest line/ }).fill('115');
  await wrong.getByRole('button', { name: 'Keep it so' }).click();
  await expect(ticked).toHaveCount(2);
  await expect(computer.getByRole('region', { name: 'Findings' })).toContainText(
    /H2 is cut 1\d\d\.\d mm long/,
  );

  // Out of reach for a while.
  await garage.setOffline(true);
  await phone.getByRole('button', { name: 'Cut it is' }).click();
  await expect(phone.getByText('1 act is kept here')).toBeVisible();
  await expect(ticked).toHaveCount(2);
  await garage.setOffline(false);
  await expect(ticked).toHaveCount(3, { timeout: 30_000 });

  // The phone is lent to somebody: its session is ended, and what it ticks then is kept until it is paired again.
  const { devices: known } = await (await computer.request.get('/api/pairing')).json();
  const device = known.find(({ name }: { name: string }) => name === 'Glovebox phone');
  expect((await computer.request.delete(`/api/devices/${device.id}`)).status()).toBe(204);
  await phone.getByRole('button', { name: 'Cut it is' }).click();
  await expect(phone.getByText('This device is not paired any more')).toBeVisible();
  await phone.getByRole('link', { name: 'Pair it again' }).click();
  const again = await computer.request.post('/api/pairing/code');
  await phone.getByLabel('Code').fill((await again.json()).way_in.code.digits);
  await phone.getByRole('button', { name: 'Pair it' }).click();
  await expect(phone.getByRole('link', { name: 'Van at the phone', exact: true })).toBeVisible();
  await phone.goto(`/jobs/${id}/runs/${run}/cards`);
  await expect(ticked).toHaveCount(4, { timeout: 30_000 });
  await garage.close();
  await computer.request.delete(`/api/jobs/${id}`);
});
