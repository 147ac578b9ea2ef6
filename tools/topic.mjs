/** In which group of its station a topic stands; those that are groups of their own are not in it. */
const groupOf = {
  List: 'Steps',
  Marks: 'Steps',
  Plans: 'Time',
  'What if': 'Time',
  'How it dries': 'Time',
  Stages: 'Look',
  Values: 'Look',
  Mending: 'Look',
  'Brushes and canvases': 'Get ready',
  'For others': 'Get ready',
  Source: 'Frame',
  Crop: 'Frame',
  Compare: 'Values',
  Areas: 'Areas',
  Tubes: 'Tubes',
  Mixes: 'Mixes',
  Heaps: 'Mixes',
  Things: 'Areas',
  Light: 'Composition',
  Edges: 'Areas',
  'Without a tube': 'Tubes',
  Lines: 'Drawing',
  Constructions: 'Drawing',
  Reflections: 'Drawing',
  When: 'When and how',
  Ways: 'When and how',
  Prints: 'Out',
  Tablet: 'Out',
};

/**
 * Turns a station to a topic, as a user does: its group, then itself.
 * @param {import('@playwright/test').Page} page
 * @param {string} name
 * @returns {Promise<void>}
 */
export async function topic(page, name) {
  const row = page.getByRole('navigation', { name: /^What to (look at|work on)$/ });
  const tab = (of) => row.getByRole('tab', { name: of, exact: true });
  await tab(groupOf[name] ?? name)
    .or(tab(name))
    .first()
    .click();
  // A group of one is its topic: nothing stands beside it.
  if (groupOf[name]) await row.locator('.ant-segmented-item', { hasText: new RegExp(`^${name}$`) }).click();
}
