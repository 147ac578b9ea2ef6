import type { EventBody } from '@viaticum/contract';
import type { ClassState } from '../shape.js';

type Body<T extends EventBody['type']> = Extract<EventBody, { type: T }>;
/** For every kind of event: changes the state in place. `at`: the server's time of the event, ms. */
export type Folds = { [T in EventBody['type']]: (state: ClassState, body: Body<T>, at: number, actor: string) => void };
