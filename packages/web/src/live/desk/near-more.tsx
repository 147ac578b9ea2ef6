import { useQuery } from '@tanstack/react-query';
import type { DeviceRole } from '@viaticum/contract';
import { Button, Popconfirm } from 'antd';
import { clsx } from 'clsx';
import { classLinksQuery, useRenewKey } from '../../api/class-queries.js';
import { CopyKey } from '../../ui/copy-key.js';
import { LinkKey } from '../../ui/link-key.js';
import { Setting } from '../../ui/setting.js';
import { setSingleKeys, singleKeysOn } from '../../ui/single-keys.js';
import { deskWords as w } from '../../words/desk.js';
import deskCss from './desk.module.css';
import { Groups } from './groups.js';
import css from './near-more.module.css';
import type { DeskAnswer, DeskParts } from './parts.js';

const speeds = [1, 5, 20, 60] as const;

/** Makes the link or key of a kind of device anew, once it was said what that does. */
function Renew({ of: role, renew }: { of: DeviceRole; renew: ReturnType<typeof useRenewKey> }) {
  return (
    <Popconfirm
      title={w.renewSure}
      styles={{ root: { maxWidth: 320 } }}
      okText={w.renew[role]}
      cancelText={w.door.no}
      onConfirm={() => renew.mutate(role)}
    >
      <Button size="small" loading={renew.isPending && renew.variables === role}>
        {w.renew[role]}
      </Button>
    </Popconfirm>
  );
}

/** The camera, the wall, keys of devices, an assistant's link, and how fast a rehearsal runs. */
export function More({ isCo = false, ...parts }: DeskParts & { answer: DeskAnswer }) {
  return isCo ? <WallLink code={parts.code} /> : <OwnMore {...parts} />;
}

const WallLink = ({ code }: Pick<DeskParts, 'code'>) => (
  <Button className={clsx(deskCss.deskKey, 'small')} href={`/wall/${code}`} target="_blank" rel="noreferrer">
    {w.wall}
  </Button>
);

function OwnMore({ connection, live, whole, sheet, code, answer }: DeskParts & { answer: DeskAnswer }) {
  const { data: links } = useQuery(classLinksQuery(code));
  const renew = useRenewKey(code);
  const { state, camera } = live;
  return (
    <>
      {state.rehearsal && (
        <section aria-label={w.speed}>
          <h2>{w.speed}</h2>
          <p className={deskCss.deskTouch}>
            {speeds.map((speed) => (
              <Button
                type="text"
                className={clsx('plain', deskCss.deskKey, 'small')}
                key={speed}
                aria-pressed={(state.clock?.speed ?? 1) === speed}
                onClick={() => void connection.say({ type: 'speed', speed })}
              >
                ×{speed}
              </Button>
            ))}
          </p>
        </section>
      )}
      <Groups connection={connection} live={whole ?? live} />
      <section aria-label={w.camera}>
        <h2>
          {w.camera}
          {camera?.simulated ? `, ${w.simulated}` : ''}
        </h2>
        {camera ? (
          <img className={css.deskCamera} src={`/api/classes/${code}/camera?at=${camera.at}`} alt={w.cameraAlt} />
        ) : (
          <p className={deskCss.deskQuiet}>{w.noCamera}</p>
        )}
      </section>
      <section aria-label={w.co}>
        <h2>{w.co}</h2>
        <p className={deskCss.deskQuiet}>{w.coAbout}</p>
        {links && (
          <p className={deskCss.deskTouch}>
            <Button className={clsx(deskCss.deskKey, 'small')} href={links.co} target="_blank" rel="noreferrer">
              {w.co}
            </Button>
            <CopyKey text={links.co} label={w.copy} done={w.copied} className={clsx(deskCss.deskKey, 'small')} />
            <Renew of="co" renew={renew} />
          </p>
        )}
      </section>
      <section aria-label={w.assistant}>
        <h2>{w.assistant}</h2>
        <p className={deskCss.deskQuiet}>{w.assistantAbout}</p>
        {links && (
          <p className={deskCss.deskTouch}>
            <Button className={clsx(deskCss.deskKey, 'small')} href={links.assistant} target="_blank" rel="noreferrer">
              {w.assistant}
            </Button>
            <CopyKey text={links.assistant} label={w.copy} done={w.copied} className={clsx(deskCss.deskKey, 'small')} />
            <Renew of="assistant" renew={renew} />
          </p>
        )}
        {(renew.isSuccess || renew.error) && (
          <p className={deskCss.deskQuiet} role="status">
            {renew.error?.message ?? w.renewed[renew.variables ?? 'assistant']}
          </p>
        )}
      </section>
      <section aria-label={w.devices}>
        <h2>{w.devices}</h2>
        <p className={deskCss.deskQuiet}>{w.devicesAbout}</p>
        {links &&
          (['sensor', 'camera'] as const).map((role) => (
            <p key={role} className={deskCss.deskTouch}>
              {w.device[role]}
              <CopyKey text={links[role]} label={w.copy} done={w.copied} className={clsx(deskCss.deskKey, 'small')} />
              <Renew of={role} renew={renew} />
            </p>
          ))}
      </section>
      <Setting said={w.singleKeys} first={singleKeysOn()} onSet={setSingleKeys} />
      <WallLink code={code} />
      {state.phase !== 'ended' && (
        <LinkKey className={clsx(deskCss.deskKey, 'small')} to={`/class/${code}`}>
          {w.record}
        </LinkKey>
      )}
      <LinkKey className={clsx(deskCss.deskKey, 'small')} to={`/lesson/${answer.lessonId}/class`}>
        {w.lesson}: {sheet.title}
      </LinkKey>
    </>
  );
}
