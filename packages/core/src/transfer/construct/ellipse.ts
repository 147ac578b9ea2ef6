import { say } from '@viaticum/contract';
import { groundCircle, type Point, plus, times } from '../../geometry/index.js';
import { eyeOf } from './eye.js';
import { degrees, ellipseCurve, line, said, type Working } from './tools.js';

export const ellipse: Working<'ellipse'> = (lesson, { at, halfWidthMm }, out) => {
  const eye = eyeOf(lesson);
  const found = groundCircle(eye, at, halfWidthMm);
  out.lines.push(ellipseCurve(found.at, found.longMm, found.shortMm, found.turnDeg));
  const t = (found.turnDeg * Math.PI) / 180;
  const [u, v]: [Point, Point] = [
    [Math.cos(t), Math.sin(t)],
    [-Math.sin(t), Math.cos(t)],
  ];
  out.lines.push(
    line(plus(found.at, times(u, -found.longMm)), plus(found.at, times(u, found.longMm))),
    line(plus(found.at, times(v, -found.shortMm)), plus(found.at, times(v, found.shortMm))),
  );
  out.how.push(
    say`Draw a level cross ${said(lesson, found.at[0])} from the left and ${said(lesson, found.at[1])} from the top: ${said(lesson, 2 * found.longMm)} across, ${said(lesson, 2 * found.shortMm)} down${Math.abs(((found.turnDeg + 90) % 180) - 90) > 2 ? say`, turned by ${degrees(found.turnDeg)}` : ''}.`,
    say(
      'Set the compass to half the long line. From an end of the short line it cuts the long line in two places: there stand two pins.',
    ),
    say(
      'A loop of string round both pins that just reaches an end of the short line, and a pencil that keeps it tight, draw the ellipse.',
    ),
    say`The true middle of the circle lies ${said(lesson, Math.abs(found.at[1] - at[1]))} above the middle of the ellipse: the near half looks larger.`,
  );
};
