import { useQuery } from '@tanstack/react-query';
import type { JoinAnswer } from '@viaticum/contract';
import { useParams } from 'react-router';
import { call } from '../../api/http.js';
import { Themed } from '../../ui/themed.js';
import { deskWords as w } from '../../words/desk.js';
import { StagesAt } from '../painted.js';
import { useOpenClass } from '../use-open-class.js';
import { RunningDesk } from './desk.js';
import css from './desk.module.css';

/** The desk of who teaches beside the instructor, let in by a link: all but ending the class, groups, and who is taken out. */
export default function CoDesk() {
  return (
    <Themed where="live">
      <OpenCoDesk />
    </Themed>
  );
}

function OpenCoDesk() {
  const { code = '' } = useParams();
  const key = location.hash.slice(1);
  const { sheet, connection } = useOpenClass(code, 'co', key);
  const { data } = useQuery({ queryKey: ['join', code], queryFn: () => call<JoinAnswer>('GET', `/api/join/${code}`) });
  if (!key) return <p className={css.deskOpening}>{w.assist.noKey}</p>;
  if (sheet.error) throw sheet.error;
  if (!connection || !sheet.data || !data) return <p className={css.deskOpening}>{w.connecting}</p>;
  return (
    <StagesAt base={`/api/join/${code}`}>
      <RunningDesk
        connection={connection}
        sheet={sheet.data}
        code={code}
        isCo
        answer={{ addresses: [data.address], lessonId: '' }}
      />
    </StagesAt>
  );
}
