import { type Bringer, commandErrors, type Extra, type Kit, type Premixing, type Sharing } from '@viaticum/contract';
import { brushOf } from '../brush/index.js';
import { between, CommandError, type D, find, insert, named, said, setOrClear, take } from './command-tools.js';

/** What may be said of a kit by itself; lists have commands of their own. */
type Said = Omit<Kit, 'premix' | 'sharing' | 'sharedBrushes' | 'who' | 'extras'>;

const kitOf = (lesson: D): NonNullable<D['kit']> => {
  lesson.kit ??= {};
  return lesson.kit;
};

function soundExtra({ count }: Pick<Extra, 'count'>): void {
  if (!Number.isInteger(count)) throw new CommandError(commandErrors.extraNotWhole);
  between(count, 1, 1000, commandErrors.extraNotWhole);
}

function soundHeads(heads: number, most: number): void {
  if (!Number.isInteger(heads)) throw new CommandError(commandErrors.headsNotWhole);
  between(heads, 1, most, commandErrors.headsOutOfRange(most));
}

/** What the kit is reckoned for. */
export const kitCommands = {
  editKit: (lesson: D, { kit, clear = [] }: { kit: Partial<Said>; clear?: (keyof Said)[] }) => {
    if (kit.heads !== undefined) soundHeads(kit.heads, 300);
    if (kit.tableOf !== undefined) soundHeads(kit.tableOf, 30);
    if (kit.teaching !== undefined) between(kit.teaching, 0, 10, commandErrors.teachingOutOfRange);
    for (const minor of [kit.feeMinor, kit.fixedMinor]) {
      if (minor !== undefined && !(Number.isInteger(minor) && minor >= 0 && minor <= 100_000_000))
        throw new CommandError(commandErrors.moneyOutOfRange);
    }
    if (kit.beginsAt !== undefined && Number.isNaN(Date.parse(kit.beginsAt))) throw new CommandError(commandErrors.noDate);
    const next = { ...kitOf(lesson), ...kit };
    for (const { variantId, heads } of kit.others ?? []) {
      find(lesson.variants, variantId, 'variant');
      soundHeads(heads, 300);
    }
    const others = (next.others ?? []).reduce((sum, one) => sum + one.heads, 0);
    if ((next.heads ?? 12) < others) throw new CommandError(commandErrors.othersTooMany(others));
    Object.assign(kitOf(lesson), kit);
    for (const field of clear) delete kitOf(lesson)[field];
  },
  setPremix: (lesson: D, { mixId, how }: { mixId: string; how: Premixing | null }) => {
    find(lesson.mixes, mixId, 'mix');
    const kit = kitOf(lesson);
    const next = said(kit.premix, (one) => one.mixId === mixId, how && { mixId, how });
    setOrClear(kit, 'premix', next);
  },
  setSharing: (lesson: D, { tubeId, how }: { tubeId: string; how: Sharing | null }) => {
    find(lesson.tubes, tubeId, 'tube');
    const kit = kitOf(lesson);
    const next = said(kit.sharing, (one) => one.tubeId === tubeId, how && { tubeId, how });
    setOrClear(kit, 'sharing', next);
  },
  /** Whether two share a brush of the table. */
  shareBrush: (lesson: D, { brush, isShared }: { brush: string; isShared: boolean }) => {
    if (!brushOf(brush)) throw new CommandError(commandErrors.gone('brush'));
    const kit = kitOf(lesson);
    const rest = (kit.sharedBrushes ?? []).filter((one) => one !== brush);
    const next = isShared ? [...rest, brush] : rest;
    setOrClear(kit, 'sharedBrushes', next.length > 0 ? next : null);
  },
  setBringer: (lesson: D, { what, by }: { what: string; by: Bringer | null }) => {
    const kit = kitOf(lesson);
    const next = said(kit.who, (one) => one.what === what, by && { what, by });
    setOrClear(kit, 'who', next);
  },
  addExtra: (lesson: D, { extra }: { extra: Extra }) => {
    soundExtra(extra);
    const kit = kitOf(lesson);
    kit.extras ??= [];
    insert(kit.extras, { ...extra, name: named(extra.name, 'thing') }, 'thing');
  },
  editExtra: (lesson: D, { id, extra }: { id: string; extra: Partial<Omit<Extra, 'id'>> }) => {
    const own = find(kitOf(lesson).extras ?? [], id, 'thing');
    if (extra.count !== undefined) soundExtra({ count: extra.count });
    Object.assign(own, extra, extra.name !== undefined && { name: named(extra.name, 'thing') });
  },
  removeExtra: (lesson: D, { id }: { id: string }) => {
    const kit = kitOf(lesson);
    take(kit.extras ?? [], id, 'thing');
    if (kit.extras?.length === 0) delete kit.extras;
  },
};
