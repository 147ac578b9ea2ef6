import { type Static, Type } from 'typebox';
import { Id, Name, oneOf, optional, strict } from '../shapes.js';
import { Step } from './steps.js';

/** The same lesson for others, kept as what differs from it. */
export const Variant = Type.Object(
  {
    id: Id,
    name: Name,
    support: optional(
      Type.Object(
        { widthMm: Type.Number({ minimum: 10, maximum: 5000 }), heightMm: Type.Number({ minimum: 10, maximum: 5000 }) },
        strict,
      ),
    ),
    level: optional(oneOf(['beginner', 'improver', 'experienced'] as const)),
    handed: optional(oneOf(['right', 'left'] as const)),
    /** For children: simpler, with materials labelled for them only. */
    children: optional(Type.Boolean()),
    /** Tubes and brushes that are not there. */
    withoutTubeIds: optional(Type.Array(Id, { maxItems: 60 })),
    withoutBrushIds: optional(Type.Array(Type.String({ maxLength: 40 }), { maxItems: 60 })),
    leaveOutStepIds: optional(Type.Array(Id, { maxItems: 400 })),
    changes: Type.Array(Type.Object({ stepId: Id, step: Type.Partial(Step) }, strict), { maxItems: 400 }),
  },
  strict,
);

export type Variant = Omit<Static<typeof Variant>, 'changes'> & { changes: { stepId: string; step: Partial<Step> }[] };
