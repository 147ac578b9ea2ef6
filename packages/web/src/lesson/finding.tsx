import type { ShownFinding } from '@viaticum/core/check';
import type { CommandArgs, CommandName } from '@viaticum/core/document';
import { Button, Input } from 'antd';
import { type FormEvent, useState } from 'react';
import { words } from '../words/words.js';
import { useSession } from './context.js';
import css from './finding.module.css';

/** What can be done about a finding: its fix, setting it aside with a word why, taking it up again. */
export function FindingKeys({ finding }: { finding: ShownFinding }) {
  const session = useSession();
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState('');
  const isAside = finding.setAside !== undefined;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    session.do('setAside', { finding: finding.id, why: why.trim() || '…' });
  };
  if (asking && !isAside)
    return (
      <form onSubmit={submit} className={css.findingWhy}>
        <Input
          value={why}
          onChange={(event) => setWhy(event.target.value)}
          placeholder={words.lesson.setAsideWhy}
          aria-label={words.lesson.setAsideWhy}
          maxLength={300}
          required
        />
        <Button htmlType="submit">{words.lesson.setAside}</Button>
      </form>
    );
  return (
    <p className={css.findingKeys}>
      {finding.fix && !isAside && (
        <Button
          size="small"
          onClick={() =>
            finding.fix && session.do(finding.fix.command as CommandName, finding.fix.args as CommandArgs<CommandName>)
          }
        >
          {finding.fix.words}
        </Button>
      )}
      <Button
        type="text"
        size="small"
        onClick={() => (isAside ? session.do('setAside', { finding: finding.id, why: null }) : setAsking(true))}
      >
        {isAside ? words.lesson.takeUp : words.lesson.setAside}
      </Button>
    </p>
  );
}
