import { parentPort } from 'node:worker_threads';
import type { Lesson, Plan, Room } from '@viaticum/contract';
import { airFactorOf, type ClassState, replanClass } from '@viaticum/core/class';
import { wholeSheet } from '@viaticum/core/follow';
import { serveJobs } from '../thread.js';

export type PlanJob =
  | { kind: 'replan'; lesson: Lesson; state: ClassState; now: number; quickest: boolean }
  | { kind: 'air'; lesson: Lesson; planned: Room; air: { airC: number; humidity: number; airSpeed: number } }
  | { kind: 'sheet'; lesson: Lesson };
export type PlanJobAnswer = { plan: Plan } | { factor: number } | ReturnType<typeof wholeSheet>;

serveJobs(parentPort, (job: PlanJob): PlanJobAnswer => {
  if (job.kind === 'replan') return { plan: replanClass(job.lesson, job.state, job.now, job.quickest) };
  if (job.kind === 'air') return { factor: airFactorOf(job.lesson, job.planned, job.air) };
  return wholeSheet(job.lesson);
});
