import { expect, test } from './test.ts';

test.use({ hasTouch: true, viewport: { width: 768, height: 1024 } });

test('a lesson with two floor eyes is wired by touch: a second one is asked for, and nothing goes in a circle', async ({
  page,
}) => {
  await page.goto('/teams/2/lessons/follow-the-channel/wire');
  await page.getByRole('button', { name: /K4 colour/ }).tap();
  await expect(page.getByText('The floor eye on K3 is needed there. K4 has nothing.')).toBeVisible();
  await expect(page.getByText('Fit a second floor eye and plug it into K4.')).toBeVisible();
  await page.getByRole('button', { name: 'We plugged it into K4' }).tap();
  await expect(page.getByText('all as it is needed')).toBeVisible();
  await page.getByRole('button', { name: /K3 reflected light/ }).tap();
  await expect(page.getByText('all as it is needed')).toBeVisible();
});
