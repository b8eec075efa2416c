import {
  DndContext,
  DragOverlay,
  pointerWithin,
  useDraggable,
  useDroppable,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useCarrySensors } from '@/ui/use-carry-sensors';
import { sittingId, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import { longDay } from '@zephyrfield/core/words/when';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Text } from '@/ui/text';

const titleOf = (data: unknown) => (data as { entry: SittingEntry }).entry.occurrence.title;

/** Sittings may be carried to another evening: by mouse at once, by a finger after a moment's rest. */
export function CarryArea({
  may,
  onCarry,
  children,
}: {
  may: boolean;
  onCarry(entry: SittingEntry, day: number): void;
  children: ReactNode;
}) {
  const sensors = useCarrySensors();
  const [title, setTitle] = useState<string | null>(null);
  const end = ({ active, over }: DragEndEvent) => {
    setTitle(null);
    if (over)
      onCarry((active.data.current as { entry: SittingEntry }).entry, over.data.current!['day'] as number);
  };
  if (!may) return <>{children}</>;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setTitle(titleOf(active.data.current))}
      onDragEnd={end}
      onDragCancel={() => setTitle(null)}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => `${titleOf(active.data.current)} is taken up.`,
          onDragOver: ({ over }) =>
            over ? `Over ${longDay(over.data.current!['day'] as number)}.` : undefined,
          onDragEnd: ({ over }) =>
            over ? `Put on ${longDay(over.data.current!['day'] as number)}.` : 'Put back.',
          onDragCancel: () => 'Put back.',
        },
      }}
    >
      {children}
      <DragOverlay dropAnimation={null}>
        {title ? (
          <View className="rounded-r-lg border border-l-[3px] border-dotted border-lagoon bg-sheet px-3 py-2 shadow-lg">
            <Text kind="label" numberOfLines={1}>
              {title}
            </Text>
          </View>
        ) : null}
      </DragOverlay>
    </DndContext>
  );
}

/** A row for an evening, that a sitting may be put on. */
export function Evening({ day, isToday, children }: { day: number; isToday: boolean; children: ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: `day ${day}`, data: { day } });
  return (
    <View
      ref={setNodeRef as never}
      role="listitem"
      className={`gap-2 border-t border-line px-4 py-2.5 wide:min-h-[64px] wide:flex-row wide:gap-4 ${
        isOver ? 'bg-lagoon-wash' : isToday ? 'bg-lagoon-wash/60' : ''
      }`}
    >
      {children}
    </View>
  );
}

/** A sitting that can be carried; for pressing, keys and screen readers it stays what it is. */
export function Carried({
  entry,
  may,
  children,
}: {
  entry: SittingEntry;
  may: boolean;
  children: ReactNode;
}) {
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: sittingId(entry),
    data: { entry },
    disabled: !may,
  });
  return (
    <View
      ref={setNodeRef as never}
      {...listeners}
      className={`min-w-0 wide:max-w-[340px] wide:flex-[1_1_220px] ${isDragging ? 'opacity-50' : ''}`}
    >
      {children}
    </View>
  );
}
