import {
  DndContext,
  KeyboardSensor,
  MouseSensor,
  TouchSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import type { ReactNode } from 'react';
import { View, type ViewProps } from 'react-native';

export interface SortableProps<T> {
  items: readonly T[];
  idOf(item: T): string;
  /** How it is called when it is carried, for who does not see it */
  nameOf(item: T): string;
  onMove(from: number, to: number): void;
  children(item: T): ReactNode;
}

/**
 * A list whose order is changed by hand: by mouse or finger at the grip, or with the grip in focus by space
 * and arrows.
 */
export function Sortable<T>({ items, idOf, nameOf, onMove, children }: SortableProps<T>) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 5 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 120, tolerance: 8 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = items.map(idOf);
  const name = (id: unknown) => nameOf(items[ids.indexOf(String(id))]!);
  const place = (id: unknown) => ids.indexOf(String(id)) + 1;
  const begin = ({ activatorEvent }: DragStartEvent) =>
    scrollAsElements(activatorEvent.target as HTMLElement);
  const end = ({ active, over }: DragEndEvent) => {
    const [from, to] = [ids.indexOf(String(active.id)), over ? ids.indexOf(String(over.id)) : -1];
    if (to >= 0 && from !== to) onMove(from, to);
  };
  const announcements = {
    onDragStart: ({ active }: Pick<DragEndEvent, 'active'>) =>
      `${name(active.id)} is taken up, place ${place(active.id)} of ${ids.length}.`,
    onDragOver: ({ over }: Pick<DragEndEvent, 'over'>) =>
      over ? `Now at place ${place(over.id)} of ${ids.length}.` : undefined,
    onDragEnd: ({ over }: Pick<DragEndEvent, 'over'>) =>
      over ? `Put at place ${place(over.id)}.` : 'Put back.',
    onDragCancel: () => 'Put back.',
  };
  const screenReaderInstructions = {
    draggable:
      'Press space to take it up, the arrows to carry it, space to put it down, escape to put it back.',
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={begin}
      onDragEnd={end}
      accessibility={{ announcements, screenReaderInstructions }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <View className="gap-2">
          {items.map((item) => (
            <Row key={idOf(item)} id={idOf(item)} name={nameOf(item)}>
              {children(item)}
            </Row>
          ))}
        </View>
      </SortableContext>
    </DndContext>
  );
}

/**
 * The scroll views around an element understand `scrollTo({ top })` as any element does. React Native Web's
 * own takes `{ y }` and reads dnd-kit's call as "to the top", which carries what is in hand to the first
 * place.
 */
function scrollAsElements(within: HTMLElement): void {
  for (let each = within.parentElement; each; each = each.parentElement) {
    if (understood.has(each) || !Object.hasOwn(each, 'scrollTo')) continue;
    understood.add(each);
    const ofView = each.scrollTo.bind(each) as (to: unknown) => void;
    const ofElement = (Element.prototype.scrollTo as (to: unknown) => void).bind(each);
    each.scrollTo = (to: unknown) =>
      typeof to === 'object' && to && 'top' in to ? ofElement(to) : ofView(to);
  }
}
const understood = new WeakSet<HTMLElement>();

function Row({ id, name, children }: { id: string; name: string; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id });
  const { role, tabIndex, 'aria-describedby': describedBy } = attributes;
  const moved = transform
    ? { transform: [{ translateY: transform.y }], ...(transition ? { transition } : {}) }
    : undefined;
  return (
    <View
      ref={setNodeRef as never}
      style={moved}
      className={`flex-row items-center ${isDragging ? 'z-10 opacity-80' : ''}`}
    >
      <View className="min-w-0 flex-1">{children}</View>
      <View
        ref={setActivatorNodeRef as never}
        {...listeners}
        role={role as ViewProps['role']}
        tabIndex={tabIndex as 0}
        aria-describedby={describedBy}
        aria-label={`Carry ${name} to another place`}
        className="min-h-touch min-w-touch cursor-grab touch-none items-center justify-center rounded-lg hover:bg-lagoon-wash"
      >
        <GripVertical size={20} color="var(--ink2)" aria-hidden />
      </View>
    </View>
  );
}
