import { useQuery } from '@tanstack/react-query';
import type { Lesson, PlanItem, Step } from '@viaticum/contract';
import { brushInWords, brushOf } from '@viaticum/core/brush';
import { followSheet, looksOf, marksOf, passageInWords } from '@viaticum/core/derived';
import { shortTubeName } from '@viaticum/core/mix';
import { planInWords, planLesson } from '@viaticum/core/plan';
import { plainWords, readingMinutes } from '@viaticum/core/text';
import { hourMinute, listInWords, minutesInWords, sizeInWords, waitInWords } from '@viaticum/core/units';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { Button } from 'antd';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { readLesson } from '../api/queries.js';
import { LinkKey } from '../ui/link-key.js';
import { RichText } from '../ui/rich-text.js';
import { StageCanvas } from '../ui/stage-canvas.js';
import { layersAt } from '../ui/stage-layers.js';
import { RecipeBar } from '../ui/swatch.js';
import { readWords as w } from '../words/teach.js';
import { words } from '../words/words.js';
import { useReadStages } from './read-stages.js';
import css from './read-through.module.css';

/** The whole lesson as a page, as an instructor reads it the evening before; it prints as it stands. */
export default function ReadThrough() {
  const { id = '' } = useParams();
  const { data, error } = useQuery({ queryKey: ['lesson', id], queryFn: () => readLesson(id), gcTime: 0 });
  if (error) throw error;
  if (!data) return <p className="opening quiet">{words.lesson.loading}</p>;
  return <Page id={id} lesson={data.document} />;
}

function Page({ id, lesson }: { id: string; lesson: Lesson }) {
  const { plan } = useMemo(() => planLesson(lesson), [lesson]);
  const sheet = useMemo(() => followSheet(lesson), [lesson]);
  const { support, units } = lesson;
  const ends = useMemo(
    () => lesson.stages.flatMap((stage) => lesson.steps.filter((step) => step.stageId === stage.id).at(-1)?.id ?? []),
    [lesson],
  );
  const painted = useReadStages(lesson, ends);
  const last = painted.get(ends.at(-1) ?? '');
  const itemOf = (stepId: string) => plan.items.find((item) => item.stepId === stepId);
  const pauseBefore = (stepId: string): PlanItem | undefined => {
    const at = plan.items.findIndex((item) => item.stepId === stepId);
    const before = plan.items[at - 1];
    return before?.kind === 'pause' ? before : undefined;
  };
  return (
    <main className={css.read}>
      <header>
        <p className={css.readKeys}>
          <LinkKey to={`/lesson/${id}/steps`}>{w.back}</LinkKey>
          <Button type="primary" onClick={() => window.print()}>
            {w.print}
          </Button>
        </p>
        <h1>{lesson.title}</h1>
        <p className="quiet">
          {sizeInWords(support.widthMm, support.heightMm, units)} · {words.schoolOrder[lesson.school.order]},{' '}
          {words.schoolValues[lesson.school.values]} · {planInWords(plan, lesson.planning.cautious)}
        </p>
      </header>
      <div className={css.readFirst}>
        <figure>
          {last ? (
            <img src={last} alt="" />
          ) : (
            <StageCanvas sheet={sheet} layers={layersAt(sheet, plan, Number.POSITIVE_INFINITY)} label="" shownPx={260} />
          )}
        </figure>
        <Palette lesson={lesson} />
      </div>
      {lesson.stages.map((stage) => {
        const steps = lesson.steps.filter((step) => step.stageId === stage.id);
        if (steps.length === 0) return null;
        const endId = steps.at(-1)?.id ?? '';
        const end = itemOf(endId)?.endMin ?? 0;
        const url = painted.get(endId);
        return (
          <section key={stage.id} className={css.readStage}>
            <h2>{stage.name}</h2>
            <figure className={css.readAfter}>
              {url ? (
                <img src={url} alt="" />
              ) : (
                <StageCanvas sheet={sheet} layers={layersAt(sheet, plan, end)} label="" shownPx={150} />
              )}
            </figure>
            {steps.map((step) => (
              <ReadStep
                key={step.id}
                lesson={lesson}
                step={step}
                number={lesson.steps.indexOf(step) + 1}
                item={itemOf(step.id)}
                pause={pauseBefore(step.id)}
              />
            ))}
          </section>
        );
      })}
      <Cautions lesson={lesson} />
    </main>
  );
}

function Palette({ lesson }: { lesson: Lesson }) {
  const looks = looksOf(lesson);
  const used = new Set(lesson.steps.flatMap((step) => step.mixIds));
  const brushes = [...new Set(lesson.steps.flatMap((step) => brushOf(step.brushId) ?? []))];
  return (
    <section className={css.readPalette}>
      <h2>{w.palette}</h2>
      {lesson.mixes
        .filter((mix) => used.has(mix.id))
        .map((mix) => {
          const look = looks.get(mix.id);
          return look ? <RecipeBar key={mix.id} parts={look.parts} words={`${mix.name}: ${look.words}`} /> : null;
        })}
      <p>
        <b>{w.tubes}</b> {listInWords(lesson.tubes.map(shortTubeName))}
      </p>
      <p>
        <b>{w.brushes}</b> {listInWords(brushes.map(brushInWords))}
      </p>
    </section>
  );
}

function ReadStep({
  lesson,
  step,
  number,
  item,
  pause,
}: {
  lesson: Lesson;
  step: Step;
  number: number;
  item: PlanItem | undefined;
  pause: PlanItem | undefined;
}) {
  const looks = looksOf(lesson);
  const brush = brushOf(step.brushId);
  const facts = [
    step.mixIds.flatMap((id) => looks.get(id)?.mix.name ?? []).join(', '),
    brush && brushInWords(brush),
    step.technique && words.techniques[step.technique],
    step.ahead && words.steps.ahead,
    step.needs !== 'any' && step.needs !== 'auto' && words.needs[step.needs],
    marksOf(lesson, step)
      .map((mark) => `${mark.count} ${mark.name}`)
      .join(', '),
  ].filter(Boolean);
  const takes = readingMinutes(plainWords(step.say));
  const wetOnWet = passageInWords(lesson, step);
  return (
    <>
      {pause && (
        <p className={css.readPause} data-testid="read-pause">
          <b>{w.pause(waitInWords(pause.endMin - pause.startMin))}</b> {pause.title}.{' '}
          {pause.fillers?.map((one) => `${one.words} (${minutesInWords(one.minutes)})`).join(', ')}
        </p>
      )}
      <article className={css.readStep} data-testid="read-step">
        <h3>
          <span className="numbers">{number}</span> {step.title}
          <span className="quiet small numbers">
            {item && w.starts(hourMinute(item.startMin), minutesInWords(item.endMin - item.startMin))}
            {takes >= 0.5 && `, ${w.toRead(minutesInWords(takes))}`}
          </span>
        </h3>
        {facts.length > 0 && <p className="quiet small">{facts.join(' · ')}</p>}
        {wetOnWet && <p>{wetOnWet}</p>}
        {step.say && <RichText text={step.say} />}
        <dl>
          {(['watch', 'checkpoint', 'finish'] as const).map((field) =>
            step[field] ? (
              <div key={field}>
                <dt>{field === 'watch' ? w.watch : field === 'checkpoint' ? w.look : w.finish}</dt>
                <dd>
                  <RichText text={step[field]} />
                </dd>
              </div>
            ) : null,
          )}
        </dl>
      </article>
    </>
  );
}

/** The usual cautions that apply to this lesson; they defer to labels and local rules. */
function Cautions({ lesson }: { lesson: Lesson }) {
  const metals = lesson.tubes.filter((tube) => pigmentOf(tube.pigment).metals.length > 0).map(shortTubeName);
  const spatters = lesson.steps.some((step) => step.technique === 'spatter');
  const list = [
    ...(metals.length > 0 ? [w.metals(listInWords(metals))] : []),
    ...(lesson.room.dryers?.count || lesson.steps.some((step) => step.dryer) ? [w.dryer] : []),
    ...(spatters ? [w.spatter] : []),
    ...(lesson.school.varnish !== 'none' ? [w.varnish] : []),
    ...w.cautionsText,
  ];
  return (
    <section className={css.readCautions}>
      <h2>{w.cautions}</h2>
      <ul>
        {list.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </section>
  );
}
