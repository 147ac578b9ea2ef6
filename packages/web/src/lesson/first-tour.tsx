import { Tour } from 'antd';
import { words } from '../words/words.js';

const w = words.tour;
const at = (selector: string) => () => document.querySelector<HTMLElement>(selector) as HTMLElement;

/** Three stops for who opens a lesson for the first time in this browser. */
export default function FirstTour({ onEnd }: { onEnd: () => void }) {
  return (
    <Tour
      open
      onClose={onEnd}
      onFinish={onEnd}
      steps={[
        {
          title: w.stations.title,
          description: w.stations.words,
          target: at('[data-tour="stations"]'),
          placement: 'right' as const,
        },
        { title: w.room.title, description: w.room.words, target: at('[data-tour="room"]'), placement: 'bottom' as const },
        { title: w.knowing.title, description: w.knowing.words, target: at('[data-tour="knowing"]'), placement: 'left' as const },
      ].map((step, i, all) => ({
        ...step,
        prevButtonProps: { children: w.back },
        nextButtonProps: { children: i === all.length - 1 ? w.end : w.next },
      }))}
    />
  );
}
