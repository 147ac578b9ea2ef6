import type { PlanItem } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { LessonPlan } from '@viaticum/core/plan';
import { hourMinute, waitInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { words } from '../../words/words.js';
import css from './table.module.css';

/** The same facts as the section, as a table. */
export function RibbonTable({ plan, onStep }: { plan: LessonPlan; onStep: (stepId: string) => void }) {
  return (
    <div className={css.ribbonTable} data-testid="ribbon-table">
      <table>
        <thead>
          <tr>
            {words.ribbon.columns.map((column) => (
              <th key={column}>{column}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plan.plan.items.map((item) => (
            <tr key={`${item.stepId ?? item.kind}${item.startMin}`}>
              <td className="numbers">{hourMinute(item.startMin)}</td>
              <td className="numbers">{hourMinute(item.endMin)}</td>
              <td>
                {item.stepId ? (
                  <Button type="text" onClick={() => onStep(item.stepId as string)}>
                    {item.title}
                  </Button>
                ) : (
                  item.title
                )}
              </td>
              <td>
                {item.kind === 'pause'
                  ? `${waitInWords(item.endMin - item.startMin)}. ${item.reason ?? ''}`
                  : coatsInWords(plan, item)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function coatsInWords(plan: LessonPlan, item: PlanItem): string {
  const coat = plan.plan.coats.find((one) => one.stepId === item.stepId);
  if (!coat || coat.openMin === null || coat.paintOverMin === null) return '';
  return say`workable ${waitInWords(coat.openMin)}, paint over after ${waitInWords(coat.paintOverMin)}`;
}
