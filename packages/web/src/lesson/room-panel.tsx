import type { Room } from '@viaticum/contract';
import { Button } from 'antd';
import { lazy, Suspense, useState } from 'react';
import { words } from '../words/words.js';

const bring = () => import('./room-drawer.js');
const RoomDrawer = lazy(() => bring().then((module) => ({ default: module.RoomDrawer })));

/** The room, opened from the header. Its drawer is brought when the key is about to be pressed. */
export function RoomPanel({ room }: { room: Room }) {
  const [isOpen, setOpen] = useState(false);
  const said = words.room.button(room.name, room.airC, room.humidity);
  return (
    <>
      <Button
        data-tour="room"
        aria-expanded={isOpen}
        aria-label={`${words.room.change}: ${said}`}
        onPointerEnter={() => void bring()}
        onFocus={() => void bring()}
        onClick={() => setOpen(true)}
      >
        {said}
      </Button>
      {isOpen && (
        <Suspense fallback={null}>
          <RoomDrawer onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
