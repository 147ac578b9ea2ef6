// Writes the demo lessons and their reference pictures to the server's assets:
//   npm run demo   (only after a scene or a lesson was changed; with --picture also the pictures)
import { existsSync, writeFileSync } from 'node:fs';
import type { Lesson } from '@viaticum/contract';
import { assets, type SceneName } from './lessons/kit.js';
// @ts-expect-error plain script without types
import { demoPicture } from './paint.mjs';

const names: SceneName[] = ['balloons', 'kettle', 'star', 'wool'];
for (const scene of names) {
  const picture = new URL(`${scene}.jpg`, assets);
  if (process.argv.includes('--picture') || !existsSync(picture))
    writeFileSync(picture, (await demoPicture({ scene, width: 1280, seed: 1 })) as Buffer);
}
const lessons: Record<SceneName, Lesson> = {
  balloons: (await import('./lessons/balloons.js')).balloons,
  kettle: (await import('./lessons/kettle.js')).kettle,
  star: (await import('./lessons/star.js')).star,
  wool: (await import('./lessons/wool.js')).wool,
};
for (const scene of names) {
  const lesson = lessons[scene];
  writeFileSync(new URL(`${scene}.json`, assets), `${JSON.stringify(lesson)}\n`);
  console.log(
    `${lesson.title}: ${lesson.areas.length} areas, ${lesson.tubes.length} tubes, ${lesson.mixes.length} mixes, ${lesson.steps.length} steps`,
  );
}
