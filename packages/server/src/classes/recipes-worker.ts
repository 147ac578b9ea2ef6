import { parentPort } from 'node:worker_threads';
import type { Lesson } from '@viaticum/contract';
import { otherRecipesSheet, substitutes } from '@viaticum/core/lesson';
import { toEnd } from '@viaticum/core/work';
import { serveJobs } from '../thread.js';

export type RecipesJob = { lesson: Lesson; lacking: string[] };

serveJobs(parentPort, ({ lesson, lacking }: RecipesJob) => otherRecipesSheet(lesson, toEnd(substitutes(lesson, lacking))));
