import type { AccountAnswer, SecondFactorAnswer } from '@viaticum/contract';
import { Button, QRCode } from 'antd';
import { useState } from 'react';
import { CopyKey } from '../ui/copy-key.js';
import { Dialog } from '../ui/dialog.js';
import { accountWords } from '../words/account.js';
import css from './account.module.css';
import { useAccountActs } from './account-queries.js';
import { ShortForm } from './door.js';

const words = accountWords.own;

/** Whether digits of an authenticator are asked for beside the password, and how that is turned on and off. */
export function SecondFactor({ account }: { account: AccountAnswer }) {
  const [dialog, setDialog] = useState<'on' | 'off' | null>(null);
  const close = () => setDialog(null);
  return (
    <section>
      <h2>{words.factor}</h2>
      <p className="quiet">{account.hasSecondFactor ? words.factorOn(account.codesLeft) : words.factorOff}</p>
      <div className={css.keys}>
        <Button onClick={() => setDialog(account.hasSecondFactor ? 'off' : 'on')}>
          {account.hasSecondFactor ? words.turnOff : words.turnOn}
        </Button>
      </div>
      {dialog === 'on' && <TurnOn onClose={close} />}
      {dialog === 'off' && <TurnOff onClose={close} />}
    </section>
  );
}

/** Password, then the code to scan and its first digits, then the codes to write down. */
function TurnOn({ onClose }: { onClose: () => void }) {
  const { beginFactor, confirmFactor } = useAccountActs();
  const codes = confirmFactor.data?.codes;
  if (codes)
    return (
      <Dialog title={words.codes} width={460} isAnswerNeeded>
        <div className={css.steps}>
          <p className="quiet">{words.codesAbout}</p>
          <ul className={css.codes}>
            {codes.map((code) => (
              <li key={code}>{code}</li>
            ))}
          </ul>
          <div className={css.keys}>
            <Button type="primary" onClick={onClose}>
              {words.written}
            </Button>
            <CopyKey size="middle" text={codes.join('\n')} label={words.copy} done={words.copied} />
          </div>
        </div>
      </Dialog>
    );
  return (
    <Dialog title={words.factor} width={420} onClose={onClose}>
      {beginFactor.data ? (
        <div className={css.steps}>
          <p>{words.scan}</p>
          <Scan fresh={beginFactor.data} />
          <ShortForm
            key="digits"
            fields={[{ key: 'code', label: words.digits, kind: 'digits', complete: 'one-time-code' }]}
            go={words.confirm}
            onGo={({ code = '' }) => confirmFactor.mutate(code)}
            error={confirmFactor.error}
            isBusy={confirmFactor.isPending}
          />
        </div>
      ) : (
        <ShortForm
          key="password"
          fields={[{ key: 'present', label: accountWords.fields.present, kind: 'password', complete: 'current-password' }]}
          go={words.next}
          onGo={({ present = '' }) => beginFactor.mutate(present)}
          error={beginFactor.error}
          isBusy={beginFactor.isPending}
        />
      )}
    </Dialog>
  );
}

function Scan({ fresh: { address, secret } }: { fresh: SecondFactorAnswer }) {
  return (
    <>
      <QRCode value={address} type="svg" size={200} color="#1f1f1f" bgColor="#ffffff" bordered={false} />
      <p className="quiet small">
        {words.orType} <span className={css.secret}>{secret.replace(/(.{4})(?=.)/g, '$1 ')}</span>
      </p>
    </>
  );
}

function TurnOff({ onClose }: { onClose: () => void }) {
  const { dropFactor } = useAccountActs();
  return (
    <Dialog title={words.factor} width={420} onClose={onClose}>
      <ShortForm
        fields={[{ key: 'present', label: accountWords.fields.present, kind: 'password', complete: 'current-password' }]}
        go={words.turnOff}
        onGo={({ present = '' }) => dropFactor.mutate(present, { onSuccess: onClose })}
        error={dropFactor.error}
        isBusy={dropFactor.isPending}
      />
    </Dialog>
  );
}
