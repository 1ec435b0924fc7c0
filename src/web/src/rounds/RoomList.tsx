import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { RoomItems } from './RoomItems';
import { minutesText, useChange, useRound } from './useRound';

type Room = Schema['RoundRoom'];

/** Rooms in walking order, dragged or moved by keys; each opens to its items. */
export function RoomList() {
  const { round, mayPlan } = useRound();
  // As it was dragged, until the server says otherwise.
  const [moved, setMoved] = useState<readonly string[] | null>(null);
  const at = (room: Room) => (moved?.includes(room.room) ? moved.indexOf(room.room) : Infinity);
  const rooms = moved ? [...round.rooms].sort((a, b) => at(a) - at(b)) : round.rooms;
  const order = useChange((names: string[]) =>
    ask(
      api.POST('/api/v1/rounds/{roundId}/rooms', {
        params: { path: { roundId: round.id } },
        body: { rooms: names },
      }),
    ),
  );
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const left = rooms.reduce((sum, room) => sum + room.items.filter((it) => !it.outcome).length, 0);
  const over = rooms.reduce(
    (sum, room) => sum + room.items.filter((it) => !it.outcome && (it.daysOver ?? 0) > 0).length,
    0,
  );
  const never = rooms.reduce(
    (sum, room) => sum + room.items.filter((it) => !it.outcome && !it.due).length,
    0,
  );
  const said = [
    over > 0 && `${over} overdue`,
    never > 0 && `${never} never inspected`,
    `${round.time.text} at the bench, half of such rounds between ${minutesText(round.time.low)} and ${minutesText(round.time.high)}`,
  ].filter(Boolean);
  return (
    <Box component="section" aria-label="Rooms">
      <Box sx={{ fontWeight: 700, fontSize: '1.1rem' }}>
        {left} {left === 1 ? 'item' : 'items'} to do
      </Box>
      {left > 0 && <Box sx={{ color: c.bark }}>{said.join(' · ')}</Box>}
      {round.remarks.map((it) => (
        <Box
          key={it.text}
          role="note"
          sx={{ borderLeft: `6px solid ${c.advice}`, pl: 1.5, py: 0.5, my: 1.5, fontSize: '1.05rem' }}
        >
          <strong>{it.text}</strong>{' '}
          {it.heldBy.length > 0 && (
            <>{it.heldBy.join(' or ')} holds it: add a day of theirs, or hand it over.</>
          )}
        </Box>
      ))}
      {order.error && <Notice problem={order.error} />}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over: target }) => {
          if (!target || active.id === target.id) return;
          const names = rooms.map((it) => it.room);
          const next = arrayMove(names, names.indexOf(String(active.id)), names.indexOf(String(target.id)));
          setMoved(next);
          order.mutate(next, { onError: () => setMoved(null) });
        }}
      >
        <SortableContext items={rooms.map((it) => it.room)} strategy={verticalListSortingStrategy}>
          {rooms.map((room) => (
            <RoomRow
              key={room.room}
              room={room}
              isMovable={round.state === 'planned' || round.state === 'open'}
            />
          ))}
        </SortableContext>
      </DndContext>
      {rooms.length === 0 && (
        <Box sx={{ color: c.bark, mt: 1.5 }}>
          {mayPlan ? 'Nothing is in it yet: add what is due, a room, or a kind.' : 'Nothing is in it.'}
        </Box>
      )}
      <Box sx={{ color: c.muted, fontSize: 14, mt: 1.5 }}>{round.basis}</Box>
    </Box>
  );
}

function RoomRow({ room, isMovable }: { room: Room; isMovable: boolean }) {
  const [isOpen, setIsOpen] = useState(false);
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: room.room,
    disabled: !isMovable,
  });
  const left = room.items.filter((it) => !it.outcome).length;
  return (
    <Box
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      sx={{
        bgcolor: isDragging ? c.raised : c.surface,
        borderBottom: `1px solid ${c.line}`,
        position: 'relative',
        zIndex: isDragging ? 3 : 'auto',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 60 }}>
        {isMovable && (
          <Box
            component="button"
            type="button"
            {...attributes}
            {...listeners}
            aria-label={`Move ${room.room}`}
            sx={{
              width: 44,
              height: 44,
              border: 0,
              bgcolor: 'transparent',
              color: c.muted,
              cursor: 'grab',
              touchAction: 'none',
              flex: 'none',
            }}
          >
            <svg width="12" height="18" viewBox="0 0 12 18" aria-hidden fill="currentColor">
              {[3, 9, 15].flatMap((y) =>
                [2.5, 9.5].map((x) => <circle key={`${x}${y}`} cx={x} cy={y} r="1.6" />),
              )}
            </svg>
          </Box>
        )}
        <Button
          color="inherit"
          onClick={() => setIsOpen(!isOpen)}
          aria-expanded={isOpen}
          sx={{
            flex: 1,
            justifyContent: 'flex-start',
            textAlign: 'left',
            fontWeight: 400,
            minWidth: 0,
            py: 1,
            px: 1,
          }}
        >
          <Box sx={{ minWidth: 0, flex: 1 }}>
            <Box sx={{ fontSize: '1.05rem' }}>
              <strong>{room.room}</strong>{' '}
              <Box component="span" sx={{ color: c.muted }}>
                {room.items.length}
              </Box>
            </Box>
            <Box sx={{ color: c.muted, fontSize: 13.5 }}>{room.about}</Box>
          </Box>
          <Box sx={{ fontWeight: 700, pr: 1, whiteSpace: 'nowrap' }}>
            {left === 0 ? 'done' : room.time.text}
          </Box>
        </Button>
      </Box>
      {isOpen && <RoomItems room={room} />}
    </Box>
  );
}
