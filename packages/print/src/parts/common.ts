import type { PlanItem, Step } from '@viaticum/contract';
import { laysPaint } from '@viaticum/core/derived';
import type { Pack } from '../model.js';
import { MM } from '../sheet.js';

/** "1:07" of minutes of the class. */
export const clock = (minutes: number): string => {
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
};
/** "rgb(1, 2, 3)" and hexadecimal colours as the PDF takes them. */
export function hex(css: string | undefined): string {
  if (css?.startsWith('#')) return css;
  const [r = 190, g = 190, b = 190] = (css?.match(/\d+(\.\d+)?/g) ?? []).map(Number);
  return `#${[r, g, b].map((value) => Math.round(value).toString(16).padStart(2, '0')).join('')}`;
}
/** Black or white, whichever is read on a colour. */
export function inkOn(colour: string): string {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16));
  return 0.299 * r + 0.587 * g + 0.114 * b > 140 ? '#111111' : '#ffffff';
}
/** A recipe as it is read aloud. */
export const spoken = (words: string): string => words.replaceAll(' : ', ', ');
export const itemOf = ({ plan }: Pack, stepId: string): PlanItem | undefined =>
  plan.plan.items.find((item) => item.stepId === stepId);
/** How high a canvas is for its width. */
export const ratioOf = ({ lesson: { support } }: Pack): number => support.heightMm / support.widthMm;

/** The canvas, small, with the places of a step dark. */
export function whereIs({ sheet: { doc }, lesson, parts }: Pack, step: Step, xMm: number, yMm: number, widthMm: number): void {
  const scale = widthMm / lesson.support.widthMm;
  const paints = laysPaint(step);
  doc.lineWidth(0.35);
  for (const { id, outline } of parts) {
    const isOn = paints && (step.wholeCanvas === true || step.areaIds.includes(id));
    for (const polygon of outline)
      for (const ring of polygon) {
        ring.forEach(([x, y], i) => {
          const at = [(xMm + x * scale) * MM, (yMm + y * scale) * MM] as const;
          i === 0 ? doc.moveTo(...at) : doc.lineTo(...at);
        });
        doc.closePath();
      }
    if (outline.length > 0) doc.fillAndStroke(isOn ? '#4a4a4a' : '#ffffff', '#a8a8a8', 'even-odd');
  }
  doc
    .lineWidth(0.5)
    .strokeColor('#6a6a6a')
    .rect(xMm * MM, yMm * MM, widthMm * MM, lesson.support.heightMm * scale * MM)
    .stroke();
}

/** The parts of a recipe as lengths in the tubes' own colours, numbers in them. */
export function recipeBar(
  { sheet, looks }: Pack,
  mixId: string,
  xMm: number,
  yMm: number,
  widthMm: number,
  heightMm: number,
): void {
  const parts = looks.get(mixId)?.parts ?? [];
  const smallMm = 6;
  const smalls = parts.filter((part) => typeof part.parts !== 'number').length;
  const whole = parts.reduce((sum, part) => (typeof part.parts === 'number' ? sum + part.parts : sum), 0);
  const each = whole > 0 ? (widthMm - smalls * smallMm) / whole : 0;
  let x = xMm;
  sheet.artefact(() => {
    for (const part of parts) {
      const isWhole = typeof part.parts === 'number';
      const width = isWhole ? (part.parts as number) * each : smallMm;
      const colour = hex(part.rgb);
      sheet.doc
        .rect(x * MM, yMm * MM, width * MM, heightMm * MM)
        .lineWidth(0.4)
        .fillAndStroke(colour, '#444');
      const letters = isWhole ? String(part.parts) : String(part.parts).includes('speck') ? 's' : 't';
      if (width > 3.4) sheet.mark(letters, x, yMm + heightMm / 2 - 1.5, width, 7.4, inkOn(colour));
      x += width;
    }
  });
}

/** The class as a line: hands dark, drying dotted, breaks open; some of its steps heavy. */
export function classLine({ sheet: { doc, left, width }, plan: { plan } }: Pack, yMm: number, heavy: ReadonlySet<string>): void {
  for (const item of plan.items) {
    const x = left + (item.startMin / plan.endMin) * width;
    const long = Math.max(0.5, ((item.endMin - item.startMin) / plan.endMin) * width);
    const isOn = item.stepId !== undefined && heavy.has(item.stepId);
    if (item.kind === 'step')
      doc
        .rect(x * MM, (yMm + (isOn ? 0 : 0.9)) * MM, Math.max(0.4, long - 0.35) * MM, (isOn ? 2.6 : 0.8) * MM)
        .fill(isOn ? '#1d1d1d' : '#9a9a9a');
    else if (item.kind === 'break')
      doc
        .lineWidth(0.4)
        .strokeColor('#9a9a9a')
        .rect(x * MM, (yMm + 0.9) * MM, Math.max(0.4, long - 0.35) * MM, 0.8 * MM)
        .stroke();
    else {
      doc.fillColor('#b0b0b0');
      for (let at = 0.6; at < long - 0.4; at += 1.3) doc.circle((x + at) * MM, (yMm + 1.3) * MM, 0.5).fill();
    }
  }
}
