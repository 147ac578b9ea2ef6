import type { Construction, Lesson } from '@viaticum/contract';
import { construct, type PaperName, sectorOf } from '@viaticum/core/transfer';
import { type Template, templatesPdf } from './templates.js';

type Motif = Extract<Construction, { kind: 'motif' }>;
const MARGIN_MM = 10;
const OVERLAP_MM = 10;
const LINE_MM = 0.35;
/** Lines run so far from the edge of their sheet. */
const AROUND_MM = 4;

/** A motif at true size: one sector of it, to be traced and turned, or all of it. */
export function motifPdf(lesson: Lesson, one: Motif, isSector: boolean): Promise<Uint8Array> {
  const paper: PaperName = 'A4';
  const base = {
    ...{ title: lesson.title, units: lesson.units, paper, overlapMm: OVERLAP_MM, marginMm: MARGIN_MM, lineMm: LINE_MM },
    ...{ isMirrored: false, source: '', reduced: false },
  };
  if (!isSector) {
    const { lines, second, labels } = construct(lesson, one);
    const { widthMm, heightMm } = lesson.support;
    return templatesPdf([
      {
        ...base,
        canvas: { widthMm, heightMm },
        labels,
        layers: [
          { name: 'motif', curves: lines, look: 'line' },
          { name: 'spokes', curves: second, look: 'help' },
        ],
      },
    ]);
  }
  const sector = sectorOf(one);
  const moved = (curves: typeof sector.lines) =>
    curves.map((curve) => curve.map(([x, y]): [number, number] => [x + AROUND_MM, y + AROUND_MM]));
  const template: Template = {
    ...base,
    canvas: { widthMm: sector.widthMm + 2 * AROUND_MM, heightMm: sector.heightMm + 2 * AROUND_MM },
    labels: [],
    layers: [
      { name: 'unit', curves: moved(sector.lines), look: 'line' },
      { name: 'rays', curves: moved(sector.second), look: 'help' },
    ],
  };
  return templatesPdf([template]);
}
