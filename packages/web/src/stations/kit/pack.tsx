import { type PackKind, type PackOptions, type PackPart, packKinds, packParts } from '@viaticum/contract';
import { Button, Checkbox, Segmented, Tree } from 'antd';
import { useState } from 'react';
import { useSession, useSnapshot } from '../../lesson/context.js';
import { saveFile } from '../../ui/save-file.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.pack;

/** What goes into the pack, in which order, for whom and on which paper; made with one key. */
export function Pack({ kit: { lesson, variantId } }: { kit: Kit }) {
  const session = useSession();
  const { save } = useSnapshot();
  const [kind, setKind] = useState<PackKind>('instructor');
  const [paper, setPaper] = useState<PackOptions['paper']>(lesson.units === 'in' ? 'letter' : 'a4');
  const [isLarge, setLarge] = useState(false);
  const [order, setOrder] = useState<PackPart[]>([...packParts]);
  const [chosen, setChosen] = useState<ReadonlySet<PackPart>>(new Set(packParts));
  const { made, isMaking, fault, make } = useMade(session.id);
  const isWhole = kind === 'instructor' || kind === 'handout';
  const shown = order.filter((part) => kind === 'instructor' || part !== 'before');
  const isReady = save.kind === 'saved' && lesson.steps.length > 0 && (!isWhole || shown.some((part) => chosen.has(part)));
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <div className={css.asked}>
        <span>
          {w.kind}
          <Segmented<PackKind>
            aria-label={w.kind}
            value={kind}
            options={packKinds.map((value) => ({ value, label: w.kinds[value] }))}
            onChange={setKind}
          />
        </span>
        <span>
          {w.paper}
          <Segmented<PackOptions['paper']>
            aria-label={w.paper}
            value={paper}
            options={[
              { value: 'a4', label: 'A4' },
              { value: 'letter', label: 'Letter' },
            ]}
            onChange={setPaper}
          />
        </span>
        <Checkbox checked={isLarge} onChange={(event) => setLarge(event.target.checked)}>
          {w.large}
        </Checkbox>
      </div>
      <p className="quiet">{w.kindAbout[kind]}</p>
      {isWhole && (
        <>
          <h3>{w.parts}</h3>
          <p className="small quiet">{w.partsAbout}</p>
          <Tree
            aria-label={w.parts}
            checkable
            draggable={{ icon: false }}
            blockNode
            selectable={false}
            checkedKeys={shown.filter((part) => chosen.has(part))}
            treeData={shown.map((part) => ({ key: part, title: w.partNames[part] }))}
            onCheck={(keys) => setChosen(new Set((Array.isArray(keys) ? keys : keys.checked) as PackPart[]))}
            onDrop={({ dragNode, node, dropToGap, dropPosition }) => {
              const rest = order.filter((part) => part !== dragNode.key);
              const at = rest.indexOf(node.key as PackPart) + (dropToGap && dropPosition < 0 ? 0 : 1);
              setOrder([...rest.slice(0, at), dragNode.key as PackPart, ...rest.slice(at)]);
            }}
            data-testid="pack-parts"
          />
        </>
      )}
      <p className={css.rowKeys}>
        <Button
          type="primary"
          loading={isMaking}
          disabled={!isReady}
          onClick={() =>
            void make(
              { kind, paper, isLarge, ...(variantId && { variantId }), parts: shown.filter((part) => chosen.has(part)) },
              `${lesson.title}, ${w.kinds[kind]}.pdf`,
            )
          }
        >
          {isMaking ? w.making : w.make}
        </Button>
        {!isReady && <span className="small quiet">{save.kind === 'saved' ? w.nothing : w.unsaved}</span>}
      </p>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {made && (
        <p role="status" data-testid="pack-made">
          {w.made(made.pages, made.bytes)} {made.lacks && w.lacks(made.lacks)}
        </p>
      )}
    </section>
  );
}

/** Asks the server for a pack and saves the file. */
function useMade(lessonId: string) {
  const [made, setMade] = useState<{ pages: number; bytes: number; lacks: string } | null>(null);
  const [isMaking, setMaking] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const make = async (options: PackOptions, name: string): Promise<void> => {
    setMaking(true);
    setFault(null);
    try {
      const answer = await fetch(`/api/lessons/${lessonId}/pack`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(options),
      });
      if (!answer.ok) throw new Error(((await answer.json()) as { message: string }).message);
      const file = await answer.blob();
      setMade({
        pages: Number(answer.headers.get('x-pages')),
        bytes: file.size,
        lacks: decodeURIComponent(answer.headers.get('x-lacks') ?? ''),
      });
      saveFile(name, file);
    } catch (error) {
      setFault(error instanceof TypeError ? w.offline : (error as Error).message);
    } finally {
      setMaking(false);
    }
  };
  return { made, isMaking, fault, make };
}
