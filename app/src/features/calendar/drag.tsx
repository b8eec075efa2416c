import {
  DndContext,
  DragOverlay,
  pointerWithin,
  useDraggable,
  useDroppable,
  type CollisionDetection,
  type DragEndEvent,
  type DragOverEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { useCarrySensors } from '@/ui/use-carry-sensors';
import { entryId, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { longDay } from '@zephyrfield/core/words/when';
import { createContext, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import type { Place } from '@/data/moves';
import { WASH } from '@/ui/colours';
import { Text } from '@/ui/text';
import { type Drawing } from './drawing';

/** What a day's box says of itself, so that a place in it can be told. */
interface Box {
  day: number;
  /** First minute it shows and how high an hour is, in pixels; absent where it shows no hours */
  hours?: { from: number; height: number } | undefined;
}

interface Load {
  entry: AgendaEntry;
  /** Its end is drawn out, and not all of it moved */
  isEnd: boolean;
}

const May = createContext(false);

interface DragAreaProps extends Pick<Drawing, 'byId'> {
  /** The person may move things */
  may: boolean;
  onMove(entry: AgendaEntry, to: Place): void;
  onStretch(entry: AgendaEntry, to: Place): void;
  children: ReactNode;
}

const SNAP = 15;

/**
 * Slips may be carried from day to day and along hours: by mouse at once, by a finger after a moment's rest,
 * so that a list still scrolls.
 */
export function DragArea({ may, byId, onMove, onStretch, children }: DragAreaProps) {
  const sensors = useCarrySensors();
  const [dragged, setDragged] = useState<AgendaEntry | null>(null);
  // The day it was taken hold of: a ribbon may be taken at any of its days, and goes on from there.
  const held = useRef<number | null>(null);
  const start = ({ active }: DragStartEvent) => {
    const { entry, isEnd } = active.data.current as Load;
    held.current = null;
    setDragged(isEnd ? null : entry);
  };
  const over = ({ over }: DragOverEvent) => {
    if (over && held.current === null) held.current = (over.data.current as Box).day;
  };
  const { detect, put } = useLastPlace();
  const end = ({ active }: DragEndEvent) => {
    setDragged(null);
    const rect = active.rect.current.translated;
    const there = put();
    if (!there || !rect) return;
    const { entry, isEnd } = active.data.current as Load;
    const { day, hours } = there.box;
    const at = (y: number) =>
      hours &&
      Math.max(
        0,
        Math.min(
          1440 - SNAP,
          Math.round((hours.from + ((y + there.further - there.top) / hours.height) * 60) / SNAP) * SNAP,
        ),
      );
    if (isEnd) onStretch(entry, { day, minute: at(rect.bottom) });
    else
      onMove(entry, {
        day: entry.lastDay > entry.day ? entry.day + day - (held.current ?? day) : day,
        minute: at(rect.top),
      });
  };
  const colour = dragged ? (byId.get(dragged.occurrence.calendarId)?.colour ?? 'slate') : 'slate';
  const told = {
    onDragStart: ({ active }: DragStartEvent) =>
      `${(active.data.current as Load).entry.occurrence.title} is taken up.`,
    onDragOver: ({ over }: { over: { data: { current?: unknown } } | null }) =>
      over ? `Over ${longDay((over.data.current as Box).day)}.` : undefined,
    onDragEnd: () => {
      const there = put();
      return there ? `Put on ${longDay(there.box.day)}.` : 'Put back.';
    },
    onDragCancel: () => 'Put back.',
  };
  return (
    <May.Provider value={may}>
      <DndContext
        sensors={sensors}
        collisionDetection={detect}
        onDragStart={start}
        onDragOver={over}
        onDragEnd={end}
        onDragCancel={() => setDragged(null)}
        accessibility={{ announcements: told }}
      >
        {children}
        <DragOverlay dropAnimation={null}>
          {dragged ? (
            <View className={`rounded-[5px] border border-lagoon px-2 py-1 shadow-lg ${WASH[colour]}`}>
              <Text kind="fine" numberOfLines={1} className="font-bold">
                {dragged.occurrence.title}
              </Text>
            </View>
          ) : null}
        </DragOverlay>
      </DndContext>
    </May.Provider>
  );
}

/**
 * Where something is put down: over which day the pointer was let go. What was drawn last may be a stroke
 * behind that, since the last move and the release come in one moment, and more so where drawing takes its
 * time.
 */
function useLastPlace() {
  const seen = useRef<Parameters<CollisionDetection>[0] | null>(null);
  const released = useRef<{ x: number; y: number } | null>(null);
  useEffect(() => {
    const release = (e: MouseEvent | TouchEvent) => {
      const { clientX: x, clientY: y } = 'changedTouches' in e ? e.changedTouches[0]! : e;
      released.current = { x, y };
    };
    // Before the sensors hear of it.
    window.addEventListener('mouseup', release, true);
    window.addEventListener('touchend', release, true);
    return () => {
      window.removeEventListener('mouseup', release, true);
      window.removeEventListener('touchend', release, true);
    };
  }, []);
  const detect: CollisionDetection = (args) => pointerWithin((seen.current = args));
  /**
   * The box it is put in, where that begins on the page, and how much further down than drawn last; null
   * beside all.
   */
  const put = () => {
    const [args, point] = [seen.current, released.current];
    if (!args?.pointerCoordinates || !point) return null;
    const [hit] = pointerWithin({ ...args, pointerCoordinates: point });
    const container = hit && args.droppableContainers.find((c) => c.id === hit.id);
    const rect = hit && args.droppableRects.get(hit.id);
    return container && rect
      ? { box: container.data.current as Box, top: rect.top, further: point.y - args.pointerCoordinates.y }
      : null;
  };
  return { detect, put };
}

/** Something that can be carried. The slip in it stays what it is for pressing, keys and screen readers. */
export function Draggable({
  entry,
  part = '',
  className = '',
  children,
}: {
  entry: AgendaEntry;
  part?: string | undefined;
  className?: string;
  children: ReactNode;
}) {
  const may = useContext(May);
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `${entryId(entry)}${part}`,
    data: { entry, isEnd: false } satisfies Load,
    disabled: !may,
  });
  return (
    <View
      ref={setNodeRef as never}
      {...listeners}
      className={`${className} ${isDragging ? 'opacity-50' : ''}`}
    >
      {children}
    </View>
  );
}

/** The end of what is drawn, to draw it out by; nothing where that is not one’s own to move. */
function End({
  entry,
  part = '',
  isOwn = true,
  className,
  children,
}: {
  entry: AgendaEntry;
  part?: string;
  isOwn?: boolean;
  className: string;
  children: ReactNode;
}) {
  const may = useContext(May) && isOwn;
  const { setNodeRef, listeners } = useDraggable({
    id: `end ${entryId(entry)}${part}`,
    data: { entry, isEnd: true } satisfies Load,
    disabled: !may,
  });
  if (!may) return null;
  return (
    <View ref={setNodeRef as never} {...listeners} aria-hidden className={className}>
      {children}
    </View>
  );
}

/** The end of a block, at its foot. */
export const BlockEnd = ({ entry }: { entry: AgendaEntry }) => (
  <End entry={entry} className="absolute bottom-0 left-0 right-0 h-[7px] cursor-ns-resize items-center">
    <View className="h-[3px] w-5 rounded-full bg-ink2" />
  </End>
);

/**
 * A stretch of days: carried as a whole, and drawn out by its end where that is one’s own to move. Each row
 * shows a part of it.
 */
export const DraggableRibbon = ({
  entry,
  part,
  isOwn,
  children,
}: {
  entry: AgendaEntry;
  part: string;
  isOwn: boolean;
  children: ReactNode;
}) => (
  <View>
    <Draggable entry={entry} part={part}>
      {children}
    </Draggable>
    <End
      entry={entry}
      part={part}
      isOwn={isOwn}
      className="absolute bottom-0 right-0 top-0 w-3 cursor-ew-resize justify-center"
    >
      <View className="h-4 w-[3px] rounded-full bg-ink2" />
    </End>
  </View>
);

/** A day that things can be put on. */
export function DayBox({
  day,
  hours,
  id = '',
  children,
  ...view
}: Box & { id?: string; children: ReactNode } & React.ComponentProps<typeof View>) {
  const { setNodeRef, isOver } = useDroppable({ id: `${id} ${day}`, data: { day, hours } satisfies Box });
  return (
    <View
      ref={setNodeRef as never}
      {...view}
      className={`${view.className ?? ''} ${isOver ? 'ring-2 ring-inset ring-lagoon' : ''}`}
    >
      {children}
    </View>
  );
}
