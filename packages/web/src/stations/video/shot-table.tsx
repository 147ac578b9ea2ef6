import type { Lesson } from '@viaticum/contract';
import { chaptersOf, pieceRules, type Timeline } from '@viaticum/core/film';
import { Table } from 'antd';
import { clockOf, filmWords } from '../../words/film.js';

const w = filmWords.length;

/** The film as a table, for who hears it rather than sees it. */
export function ShotTable({ timeline, lesson }: { timeline: Timeline; lesson: Lesson }) {
  const chapters = chaptersOf(lesson, timeline);
  return (
    <Table
      size="small"
      pagination={false}
      rowKey={({ from }) => from}
      dataSource={timeline.shots.map((shot) => ({ shot, from: shot.from }))}
      columns={[
        { title: w.columns.at, render: (_, { shot }) => clockOf(shot.from / timeline.fps) },
        {
          title: w.columns.take,
          render: (_, { shot }) =>
            `${shot.slate} ${shot.kind === 'dry' ? filmWords.cards.kinds.dry : shot.piece ? pieceRules[shot.piece.kind].name : ''}, ${chapters.find(({ from, to }) => from <= shot.from / timeline.fps && to > shot.from / timeline.fps)?.title ?? ''}`,
        },
        {
          title: w.columns.shown,
          align: 'right',
          render: (_, { shot }) => `${((shot.to - shot.from) / timeline.fps).toFixed(1)} s`,
        },
        {
          title: w.columns.speed,
          align: 'right',
          render: (_, { shot }) => (shot.speed < 1.05 ? '' : `${shot.speed.toFixed(1)}×`),
        },
      ]}
    />
  );
}
