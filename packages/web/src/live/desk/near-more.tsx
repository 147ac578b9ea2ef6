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

/** What became of making a link or key anew. */
function Renewed({ of: roles, renew }: { of: readonly DeviceRole[]; renew: ReturnType<typeof useRenewKey> }) {
  const { variables: role, error, isSuccess } = renew;
  if (role === undefined || !roles.includes(role) || !(isSuccess || error)) return null;
  return (
    <p className={deskCss.deskQuiet} role="status">
      {error?.message ?? w.renewed[role]}
    </p>
  );
}

type LinkSectionProps = {
  of: DeviceRole;
  title: string;
  about: string;
  link: string | undefined;
  renew: ReturnType<typeof useRenewKey>;
};

/** A link for somebody who helps: opened, copied, made anew. */
function LinkSection({ of: role, title, about, link, renew }: LinkSectionProps) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <p className={deskCss.deskQuiet}>{about}</p>
      {link && (
        <p className={deskCss.deskTouch}>
          <Button className={clsx(deskCss.deskKey, 'small')} href={link} target="_blank" rel="noreferrer">
            {title}
          </Button>
          <CopyKey text={link} label={w.copy} done={w.copied} className={clsx(deskCss.deskKey, 'small')} />
          <Renew of={role} renew={renew} />
        </p>
      )}
      <Renewed of={[role]} renew={renew} />
    </section>
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
      <LinkSection of="co" title={w.co} about={w.coAbout} link={links?.co} renew={renew} />
      <LinkSection of="assistant" title={w.assistant} about={w.assistantAbout} link={links?.assistant} renew={renew} />
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
        <Renewed of={['sensor', 'camera']} renew={renew} />
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
