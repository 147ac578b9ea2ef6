import { useQuery } from '@tanstack/react-query';
import { newStudio, type Studio } from '@viaticum/contract';
import { type KitLine, type KitPaint, kitLines, kitPaint, moneyInWords } from '@viaticum/core/kit';
import { planOf } from '@viaticum/core/plan';
import { withVariant } from '@viaticum/core/variant';
import { useMemo, useState } from 'react';
import { studioQuery, useSaveStudio } from '../../api/kit-queries.js';
import { useLesson, usePlan, useWorkedOut } from '../../lesson/context.js';

/** The kit of the lesson that is open, with what the studio has; worked out anew when one of them changes. */
export function useKit() {
  const worked = useWorkedOut();
  const own = useLesson();
  const ownPlan = usePlan();
  const { data: studio = newStudio } = useQuery(studioQuery);
  const saving = useSaveStudio();
  const [variantId, setVariantId] = useState<string | null>(null);
  const variant = own.variants.find(({ id }) => id === variantId);
  // What is said of the kit counts at once, also while areas are still worked out. For others it is the lesson as they have it.
  const lesson = useMemo(() => {
    const said = worked.kit === own.kit ? worked : { ...worked, ...(own.kit && { kit: own.kit }) };
    return variant ? withVariant(said, variant).lesson : said;
  }, [worked, own.kit, variant]);
  const plan = useMemo(() => (variant ? planOf(lesson) : ownPlan), [variant, lesson, ownPlan]);
  const paint = useMemo((): KitPaint => kitPaint(lesson, plan.plan, studio), [lesson, plan, studio]);
  const lines = useMemo((): KitLine[] => kitLines(lesson, plan, paint, studio.sinks), [lesson, plan, paint, studio.sinks]);
  return {
    lesson,
    plan,
    studio,
    paint,
    lines,
    variantId: variant?.id ?? null,
    setVariantId,
    money: (minor: number) => `${moneyInWords(minor, studio.currency)} ${studio.currency}`,
    saveStudio: (more: Partial<Studio>) => saving.mutate({ ...studio, ...more }),
    fault: saving.error?.message ?? null,
  };
}
export type Kit = ReturnType<typeof useKit>;
