export { chanceDry, dryingFactorOf, type TouchedCoat } from './drying-factor.js';
export {
  type ClassStep,
  classWentOn,
  type DoneBy,
  type Following,
  fingerprint,
  type Knowledge,
  known,
  type levels,
  newcomer,
  type Sign,
  type StepFact,
  saidDone,
  saidLeftOut,
  saidSign,
  saidWentOn,
} from './filter.js';
export { rungOf, TICK_S } from './step-kernel.js';
export { LADDER, phi16, rung } from './tables.js';
