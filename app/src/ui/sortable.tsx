import { DndContext, closestCenter, type DragEndEvent, type DragStartEvent } from '@dnd-kit/core';
import { useCarrySensors } from './use-carry-sensors';
import { SortableContext, arrayMove, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import { useLayoutEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Pressable, View, type ViewProps } from 'react-native';
import { elementOf } from './element';
import { Text } from './text';

export interface SortableProps<T> {
  items: readonly T[];
  idOf(item: T): string;
  /** Tells how it is called when it is moved, for who does not see it */
  nameOf(item: T): string;
  onMove(from: number, to: number): void;
  children(item: T): ReactNode;
}

/** What was taken up by key: where it was, and where it would be put down now. */
interface Held {
  from: number;
  at: number;
}

/**
 * A list whose order is changed by hand: by mouse or finger at the grip, by a press on up or down, or with the grip in
 * focus by space and arrows.
 */
export function Sortable<T>({ items, idOf, nameOf, onMove, children }: SortableProps<T>) {
  const sensors = useCarrySensors(120);
  const { shown, heldId, said, stepped, onKey, onStep, putBack } = useKeys({ items, idOf, nameOf, onMove });
  const ids = shown.map(idOf);
  const begin = ({ activatorEvent }: DragStartEvent) =>
    scrollAsElements(activatorEvent.target as HTMLElement);
  const end = ({ active, over }: DragEndEvent) => {
    const [from, to] = [ids.indexOf(String(active.id)), over ? ids.indexOf(String(over.id)) : -1];
    if (to >= 0 && from !== to) onMove(from, to);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={begin}
      onDragEnd={end}
      accessibility={{ announcements: SILENT, screenReaderInstructions: INSTRUCTIONS }}
    >
      <View role="status" className="sr-only">
        <Text>{said}</Text>
      </View>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <View className="gap-2">
          {shown.map((item, at) => (
            <Row
              key={idOf(item)}
              id={idOf(item)}
              name={nameOf(item)}
              isHeld={heldId === idOf(item)}
              ways={{ up: at > 0, down: at < shown.length - 1 }}
              stepped={stepped?.id === idOf(item) ? stepped.way : null}
              onStep={(way) => onStep(idOf(item), way)}
              onKey={(event) => onKey(event, idOf(item))}
              onLeave={putBack}
            >
              {children(item)}
            </Row>
          ))}
        </View>
      </SortableContext>
    </DndContext>
  );
}

const INSTRUCTIONS = {
  draggable: 'Press space to take it up, the arrows to move it, space to put it down, escape to put it back.',
};
// What a mouse or a finger does is seen by whoever does it.
const SILENT = {
  onDragStart: () => undefined,
  onDragOver: () => undefined,
  onDragEnd: () => undefined,
  onDragCancel: () => undefined,
};

/**
 * Taking up, moving and putting down by key. The place is counted here and not measured on screen, and kept
 * beside what is drawn, so that keys pressed faster than the list is drawn are not lost.
 */
function useKeys<T>({ items, idOf, nameOf, onMove }: Omit<SortableProps<T>, 'children'>) {
  const held = useRef<Held | null>(null);
  const [drawn, setDrawn] = useState<Held | null>(null);
  const [said, setSaid] = useState('');
  const [stepped, setStepped] = useState<{ id: string; way: Way } | null>(null);
  const hold = (next: Held | null, words: string) => {
    held.current = next;
    setSaid(words);
    setDrawn(next);
  };
  const putBack = () => {
    if (held.current) hold(null, 'Put back.');
  };
  const onKey = (event: KeyboardEvent, id: string) => {
    const now = held.current;
    const places = items.length;
    const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const isSpace = event.key === ' ' || event.key === 'Enter';
    if (!isSpace && !(now && (step || event.key === 'Escape'))) return;
    event.preventDefault();
    event.stopPropagation();
    if (!now) {
      const from = items.findIndex((item) => idOf(item) === id);
      hold({ from, at: from }, `${nameOf(items[from]!)} is taken up, place ${from + 1} of ${places}.`);
    } else if (step) {
      const at = Math.min(places - 1, Math.max(0, now.at + step));
      hold({ ...now, at }, `Now at place ${at + 1} of ${places}.`);
    } else if (isSpace) {
      hold(null, `Put at place ${now.at + 1}.`);
      if (now.at !== now.from) onMove(now.from, now.at);
    } else putBack();
  };
  const onStep = (id: string, way: Way) => {
    const from = items.findIndex((item) => idOf(item) === id);
    const to = from + (way === 'up' ? -1 : 1);
    setSaid(`${nameOf(items[from]!)} is now at place ${to + 1} of ${items.length}.`);
    setStepped({ id, way });
    onMove(from, to);
  };
  const shown = drawn ? arrayMove([...items], drawn.from, drawn.at) : [...items];
  return { shown, heldId: drawn && idOf(shown[drawn.at]!), said, stepped, onKey, onStep, putBack };
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

type Way = 'up' | 'down';
const WAYS = [
  ['up', ChevronUp],
  ['down', ChevronDown],
] as const;

interface RowProps {
  id: string;
  name: string;
  isHeld: boolean;
  /** Ways it can go by a press */
  ways: Record<Way, boolean>;
  /** The way it has just gone by a press */
  stepped: Way | null;
  onStep(way: Way): void;
  onKey(event: KeyboardEvent): void;
  onLeave(): void;
  children: ReactNode;
}

function Row({ id, name, isHeld, ways, stepped, onStep, onKey, onLeave, children }: RowProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id });
  const grip = useRef<View | null>(null);
  // A row that changes its place in the page loses its focus, and may go out of sight.
  useLayoutEffect(() => {
    const element = elementOf(grip.current);
    if (!isHeld || !element || document.activeElement === element) return;
    element.focus({ preventScroll: true });
    element.scrollIntoView?.({ block: 'nearest' });
  });
  const steps = useRef<Record<Way, View | null>>({ up: null, down: null });
  useLayoutEffect(() => {
    if (!stepped || document.activeElement !== document.body) return;
    const way = ways[stepped] ? stepped : stepped === 'up' ? 'down' : 'up';
    elementOf(steps.current[way])?.focus();
  });
  const { role, tabIndex, 'aria-describedby': describedBy } = attributes;
  const moved = transform
    ? { transform: [{ translateY: transform.y }], ...(transition ? { transition } : {}) }
    : undefined;
  return (
    <View
      ref={setNodeRef as never}
      style={moved}
      className={`flex-row items-center ${isDragging || isHeld ? 'z-10 opacity-80' : ''}`}
    >
      <View className="min-w-0 flex-1">{children}</View>
      <View>
        {WAYS.map(([way, Icon]) => (
          <Pressable
            key={way}
            ref={(view: View | null) => {
              steps.current[way] = view;
            }}
            role="button"
            aria-label={`Move ${way}: ${name}`}
            disabled={!ways[way]}
            onPress={() => onStep(way)}
            className={`h-[28px] min-w-touch items-center justify-center rounded-lg hover:bg-lagoon-wash ${ways[way] ? '' : 'opacity-30'}`}
          >
            <Icon size={20} color="var(--lagoon)" aria-hidden />
          </Pressable>
        ))}
      </View>
      <View
        ref={(view: View | null) => {
          grip.current = view;
          setActivatorNodeRef(elementOf(view));
        }}
        {...listeners}
        role={role as ViewProps['role']}
        tabIndex={tabIndex as 0}
        aria-describedby={describedBy}
        aria-label={`Move ${name} to another place`}
        onKeyDown={onKey}
        onBlur={() => {
          // Moved by its own key, it is in focus again before the next event.
          setTimeout(() => document.activeElement !== elementOf(grip.current) && onLeave());
        }}
        className={`min-h-touch min-w-touch cursor-grab touch-none items-center justify-center rounded-lg hover:bg-lagoon-wash ${isHeld ? 'bg-lagoon-wash' : ''}`}
      >
        <GripVertical size={20} color="var(--ink2)" aria-hidden />
      </View>
    </View>
  );
}
