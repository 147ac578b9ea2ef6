import type { Amount, Lab, Lesson, Mix } from '@viaticum/contract';
import { cssRgb, labToSrgb, valueStep } from '@viaticum/core/colour';
import { looksOf, shortTubeName, visibleOf } from '@viaticum/core/lesson';
import { useState } from 'react';
import { pictureUrl } from '../../api/queries.js';
import { useSession } from '../../lesson/context.js';
import { CommitInput } from '../../ui/commit-input.js';
import { Nudges } from '../../ui/nudges.js';
import { BrushOut } from '../../ui/swatch.js';
import { words } from '../../words.js';
import { colourAt, colourOfZone, usePixels } from './pixels.js';

const w = words.paints;
const amounts: readonly Amount[] = ['speck', 'touch', ...Array.from({ length: 12 }, (_, i) => i + 1)];
const amountWord = (amount: Amount) => (amount === 'touch' ? w.touch : amount === 'speck' ? w.speck : String(amount));

/** One heap: its name, recipe in parts, colour wet and dry, and how far it is from its target. */
export function MixEditor({ lesson, mix, ground }: { lesson: Lesson; mix: Mix; ground: string }) {
  const session = useSession();
  const look = looksOf(lesson).get(mix.id);
  const used = lesson.steps.filter((step) => step.mixIds.includes(mix.id)).length;
  const setPart = (tubeId: string, parts: Amount | null) =>
    session.do('setRecipe', {
      id: mix.id,
      recipe:
        parts === null
          ? mix.recipe.filter((part) => part.tubeId !== tubeId)
          : mix.recipe.map((part) => (part.tubeId === tubeId ? { tubeId, parts } : part)),
    });
  const free = lesson.tubes.filter((tube) => !mix.recipe.some((part) => part.tubeId === tube.id));
  return (
    <section className="mix-editor">
      <CommitInput
        className="mix-name"
        value={mix.name}
        label={words.picture.rename(mix.name)}
        onCommit={(name) => session.do('renameMix', { id: mix.id, name })}
      />
      <div className="mix-large">
        <BrushOut rgb={look?.rgb ?? ''} wetRgb={look?.wetRgb ?? ''} groundRgb={ground} label={mix.name} />
        {mix.targetLab && <i className="mix-target" style={{ background: cssRgb(labToSrgb(mix.targetLab)) }} title={w.target} />}
      </div>
      <p className="mix-legend small quiet">
        <span>{w.wet}</span>
        <span>{w.dry}</span>
        {mix.targetLab && <span>{w.target}</span>}
      </p>
      {look?.off && look.colour && (
        <p>
          <b className="mix-off">{look.off}</b>{' '}
          <span className="quiet small numbers">
            {w.deltaE(look.deltaE ?? 0)}, {w.value(valueStep(look.colour.lab[0]))}, {w.model}
          </span>
        </p>
      )}
      <h3>{w.recipe}</h3>
      <ul className="mix-recipe">
        {mix.recipe.map((part) => {
          const tube = lesson.tubes.find((one) => one.id === part.tubeId);
          const name = tube ? shortTubeName(tube) : '';
          return (
            <li key={part.tubeId}>
              <select
                value={String(part.parts)}
                aria-label={w.parts(name)}
                onChange={(event) => setPart(part.tubeId, (Number(event.target.value) || event.target.value) as Amount)}
              >
                {[...new Set([...amounts, part.parts])].map((amount) => (
                  <option key={amount} value={String(amount)}>
                    {amountWord(amount)}
                  </option>
                ))}
              </select>
              <span>{name}</span>
              <button
                type="button"
                className="key bare small"
                aria-label={`${w.remove}: ${name}`}
                onClick={() => setPart(part.tubeId, null)}
              >
                ×
              </button>
            </li>
          );
        })}
      </ul>
      {free.length > 0 && (
        <select
          className="plain-input"
          value=""
          aria-label={w.addToRecipe}
          onChange={(event) =>
            session.do('setRecipe', { id: mix.id, recipe: [...mix.recipe, { tubeId: event.target.value, parts: 1 }] })
          }
        >
          <option value="">{w.addToRecipe}</option>
          {free.map((tube) => (
            <option key={tube.id} value={tube.id}>
              {shortTubeName(tube)}
            </option>
          ))}
        </select>
      )}
      <Target lesson={lesson} mix={mix} />
      <p className="mix-foot small quiet">
        {w.usedIn(used)}
        <button type="button" className="key bare small" onClick={() => session.do('removeMix', { id: mix.id })}>
          {w.remove}
        </button>
      </p>
    </section>
  );
}

/** The target: picked from the picture, the mean of an area, or moved by a painter's words. */
function Target({ lesson, mix }: { lesson: Lesson; mix: Mix }) {
  const session = useSession();
  const [reference] = lesson.references;
  const pixels = usePixels(reference);
  const [picking, setPicking] = useState(false);
  const set = (lab: Lab | null) => lab !== undefined && session.do('setMixTarget', { id: mix.id, lab });
  const { widthMm, heightMm } = lesson.support;
  return (
    <>
      <h3>{w.target}</h3>
      {!mix.targetLab && <p className="small quiet">{w.noTarget}</p>}
      <p className="mix-target-keys">
        {reference && (
          <button type="button" className="key" aria-pressed={picking} onClick={() => setPicking(!picking)}>
            {w.pick}
          </button>
        )}
        {reference && pixels && lesson.zones.length > 0 && (
          <select
            className="plain-input"
            value=""
            aria-label={w.fromZone}
            onChange={(event) => {
              const part = visibleOf(lesson).find((one) => one.id === event.target.value);
              const lab = part && colourOfZone(pixels, reference, part.outline);
              if (lab) set(lab);
            }}
          >
            <option value="">{w.fromZone}</option>
            {lesson.zones.map((zone) => (
              <option key={zone.id} value={zone.id}>
                {zone.name}
              </option>
            ))}
          </select>
        )}
      </p>
      {mix.targetLab && <Nudges clear={w.clear} lab={mix.targetLab} onLab={set} />}
      {picking && reference && (
        <figure className="mix-pick">
          <figcaption className="small">{w.picking}</figcaption>
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: the mean of an area and the words are the ways by keyboard */}
          <svg
            role="img"
            aria-label={w.picking}
            viewBox={`0 0 ${widthMm} ${heightMm}`}
            data-testid="pick"
            onClick={(event) => {
              const matrix = event.currentTarget.getScreenCTM();
              if (!matrix || !pixels) return;
              const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
              const lab = colourAt(pixels, reference, [x, y], 2.5);
              if (lab) set(lab);
            }}
          >
            <image
              href={pictureUrl(reference.pictureSha256, 'work')}
              width={reference.widthPx}
              height={reference.heightPx}
              preserveAspectRatio="none"
              transform={`translate(${reference.placement.xMm + (reference.widthPx * reference.placement.mmPerPx) / 2} ${reference.placement.yMm + (reference.heightPx * reference.placement.mmPerPx) / 2}) rotate(${reference.placement.rotationDeg}) scale(${reference.placement.flip ? -reference.placement.mmPerPx : reference.placement.mmPerPx} ${reference.placement.mmPerPx}) translate(${-reference.widthPx / 2} ${-reference.heightPx / 2})`}
            />
          </svg>
        </figure>
      )}
    </>
  );
}
