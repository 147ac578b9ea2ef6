import { describe, expect, it, jest } from '@jest/globals';
import { currentItem } from '@viaticum/core/class';
import { demoLesson } from '@viaticum/core/fixtures';
import { wholeSheet } from '@viaticum/core/student-sheet';
import { ALONE_ID, aloneClass, type KeptAlone } from './alone.js';

const given = wholeSheet(demoLesson());
function begun() {
  let kept: KeptAlone | null = null;
  const own = aloneClass(given, { kept: null, keep: (now) => (kept = now && structuredClone(now)) });
  own.begin();
  return { own, kept: () => kept };
}
const titleOf = (own: ReturnType<typeof aloneClass>) => currentItem(own.get().state)?.title;

describe('a class of one', () => {
  it('begins at the first step, goes on when told, and is told to who listens', async () => {
    const { own } = begun();
    const heard = jest.fn();
    const gone = own.subscribe(heard);
    expect(titleOf(own)).toBe(given.plan.items[0]?.title);
    own.begin();
    expect(own.get().state.visits).toHaveLength(1);
    expect(await own.say({ type: 'done', studentId: ALONE_ID, stepId: given.plan.items[0]?.stepId as string })).toEqual({
      ok: true,
    });
    expect(await own.say({ type: 'goOn', from: 0 })).toEqual({ ok: true });
    expect(titleOf(own)).toBe(given.plan.items[1]?.title);
    expect(heard).toHaveBeenCalledTimes(2);
    gone();
    await own.say({ type: 'goTo', from: 1, to: 0 });
    expect(heard).toHaveBeenCalledTimes(2);
    expect(titleOf(own)).toBe(given.plan.items[0]?.title);
  });
  it('goes on where it was kept, and begins anew when all is forgotten', async () => {
    const { own, kept } = begun();
    await own.say({ type: 'goOn', from: 0 });
    const before = kept() as KeptAlone | null;
    expect(before?.state.current?.index).toBe(1);
    const again = aloneClass(given, { kept: before, keep: () => undefined });
    // What happened is kept with it, to be told at the end.
    expect(again.events().map(({ body }) => body.type)).toEqual(['joined', 'itemStarted', 'itemStarted']);
    expect(titleOf(again)).toBe(given.plan.items[1]?.title);
    expect(again.get().state.students[ALONE_ID]).toBeDefined();
    own.forget();
    expect(kept()).toBeNull();
    expect(own.get().state).toMatchObject({ phase: 'open', current: null, visits: [] });
  });
  it('what cannot be is a sentence, gone with the next command', async () => {
    const { own } = begun();
    const { ok, message } = await own.say({ type: 'done', studentId: ALONE_ID, stepId: 'unknown' });
    expect([ok, message]).toEqual([false, 'This step is not in the lesson.']);
    expect(own.get().refusal).toBe(message);
    await own.say({ type: 'goOn', from: 0 });
    expect(own.get().refusal).toBeNull();
    // The last item ends the lesson.
    for (let i = 1; i < given.plan.items.length; i++) await own.say({ type: 'goOn', from: i });
    expect((await own.say({ type: 'goOn', from: given.plan.items.length - 1 })).ok).toBe(false);
    await own.say({ type: 'end' });
    expect(own.get().state.phase).toBe('ended');
  });
});
