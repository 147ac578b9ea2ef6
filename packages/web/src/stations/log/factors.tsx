import { useQuery } from '@tanstack/react-query';
import type { Calibration } from '@viaticum/core/log';
import { Button, Table } from 'antd';
import { clsx } from 'clsx';
import { calibrationsQuery } from '../../api/log-queries.js';
import { useLesson, useSession, useSnapshot } from '../../lesson/context.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';
import { WorkedOut } from './worked-out.js';

const w = logWords.factors;

/** What classes teach of drying, pace, help and paint: each taken over by itself, and taken back. */
export function Factors() {
  const lesson = useLesson();
  const session = useSession();
  const { save } = useSnapshot();
  // What is saved is what the server works with.
  const { data, error } = useQuery({ ...calibrationsQuery(session.id), enabled: save.kind === 'saved', staleTime: 0 });
  const rows = data?.calibrations ?? [];
  return (
    <WorkedOut words={w} error={error} isThere={data !== undefined}>
      {data && rows.length === 0 && <p>{w.none}</p>}
      {rows.length > 0 && (
        <Table<Calibration>
          rowKey="key"
          dataSource={rows}
          pagination={false}
          size="small"
          scroll={{ x: 760 }}
          columns={[
            { title: w.columns.what, render: (_, one) => w.nameOf(one.key, lesson.room.name) },
            {
              title: w.columns.found,
              align: 'right',
              render: (_, one) => (
                <>
                  <b className="numbers">{w.share(one.factor)}</b>
                  <br />
                  <span className={clsx('small quiet numbers', css.oneLine)}>{w.range(one.from, one.to)}</span>
                </>
              ),
            },
            {
              title: w.columns.from,
              render: (_, one) => <span className="small">{w.known(one.key, one.observations, one.classes)}</span>,
            },
            {
              title: w.columns.present,
              align: 'right',
              render: (_, one) => <span className="numbers">{w.share(one.present)}</span>,
            },
            {
              title: w.columns.change,
              render: (_, one) => <span className="small">{one.isClear ? w.change(one.change) : w.notYet}</span>,
            },
            {
              title: '',
              render: (_, { key, isClear, take, back }) => (
                <p className={css.keys}>
                  {isClear && (
                    <Button
                      size="small"
                      type="primary"
                      aria-label={w.takeOf(w.nameOf(key, lesson.room.name))}
                      onClick={() => session.do(take.command, take.args as never)}
                    >
                      {w.take}
                    </Button>
                  )}
                  {back && (
                    <Button
                      size="small"
                      aria-label={w.backOf(w.nameOf(key, lesson.room.name))}
                      onClick={() => session.do(back.command, back.args as never)}
                    >
                      {w.back}
                    </Button>
                  )}
                </p>
              ),
            },
          ]}
        />
      )}
    </WorkedOut>
  );
}
