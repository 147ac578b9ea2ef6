import { accessible, expect, openDemo, saved, test, topic, total } from './fixtures.js';

test('classes noted by hand suggest an edit with what it is known from; it is taken, undone, refused; they are found by their words', async ({
  signedIn: page,
}) => {
  await openDemo(page, 'log');
  const learnt = page.getByTestId('suggestions').getByRole('listitem');
  await expect(page.getByText(/^Nothing yet that would be worth changing/)).toBeVisible();

  await test.step('what took how long in two classes without the application', async () => {
    await topic(page, 'By hand');
    await page.getByRole('button', { name: 'Put it into the log' }).click();
    await expect(page.getByText('Enter how long at least one step took.')).toBeVisible();
    for (const [minutes, remark] of [
      ['23', 'the stove was on'],
      ['25', 'a wedding next door'],
    ] as const) {
      await page.getByLabel('Minutes of Tone the whole canvas').fill(minutes);
      await page.getByLabel('What to note of Tone the whole canvas').fill(remark);
      await page.getByRole('button', { name: 'Put it into the log' }).click();
      await expect(page.getByText('It stands in the log.').last()).toBeVisible();
      await expect(page.getByLabel('Minutes of Tone the whole canvas')).toHaveValue('');
    }
    await accessible(page, 'a class noted by hand');
  });

  await test.step('both are listed, and each is found by a word of its own', async () => {
    await topic(page, 'Classes');
    const listed = page.getByTestId('logged').getByRole('listitem');
    await expect(listed).toHaveCount(2);
    await page.getByLabel('Find in what was taught').fill('wedd');
    await page.keyboard.press('Enter');
    await expect(listed).toHaveCount(1);
    await expect(listed).toContainText('took 25 min');
    await listed.getByText(/steps?$/).click();
    await expect(listed).toContainText('a wedding next door');
    await accessible(page, 'the classes that were taught');
  });

  await test.step('the edit they suggest is taken at one stroke, and undone', async () => {
    await topic(page, 'What classes taught');
    const before = await total(page).innerText();
    await expect(learnt).toHaveCount(1);
    await expect(learnt).toContainText('“Tone the whole canvas” took 24 min');
    await expect(learnt).toContainText(/(23 and 25|25 and 23) min in 2 classes, planned 8/);
    await accessible(page, 'what classes suggest');
    await learnt.getByRole('button', { name: 'Take it' }).click();
    await expect(total(page)).not.toHaveText(before);
    await saved(page);
    await expect(learnt).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(total(page)).toHaveText(before);
    await expect(learnt).toHaveCount(1);
  });

  await test.step('what is refused stays away', async () => {
    await learnt.getByRole('button', { name: 'Not for this lesson' }).click();
    await expect(learnt).toHaveCount(0);
    await saved(page);
    await page.reload();
    await expect(page.getByText(/^Nothing yet that would be worth changing/)).toBeVisible();
  });
});
