import { computePosition, flip, offset, shift } from '@floating-ui/dom';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';
import { URGENCY_WORDS, opensWords, slipGist } from '@zephyrfield/core/view/slips';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Pressable, View } from 'react-native';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';
import type { Drawing } from './drawing';
import { elementOf } from '@/ui/element';
import { useEscape } from '@/ui/use-escape';

/** Time a pointer rests on a slip, or a finger on it, before it is looked at. */
const REST = 450;
/** Time to go from a slip to what is told of it, in milliseconds. */
const GRACE = 250;
/** A finger that moves farther than this scrolls. */
const STILL = 8;

interface Props extends Pick<Drawing, 'byId' | 'now' | 'viewer'> {
  /** What the slips stand in; each carries `data-slip` */
  within: RefObject<View | null>;
  entryOf(id: string): AgendaEntry | undefined;
}

/**
 * Tells beside a slip what it has no room for: while a mouse rests on it or on what is told, while it has the focus of
 * the keys, or after a long press until the next one. Escape closes it. Screen readers are told all of it by the slip
 * itself.
 */
export function QuickLook({ within, entryOf, byId, now, viewer }: Props) {
  const [slip, setSlip] = useState<HTMLElement | null>(null);
  const card = useRef<View>(null);
  useEffect(() => watch(elementOf(within.current)!, () => elementOf(card.current), setSlip), [within]);
  useEscape(() => setSlip(null), slip !== null);
  const entry = slip?.dataset['slip'] === undefined ? undefined : entryOf(slip.dataset['slip']);
  useEffect(() => {
    const box = elementOf(card.current);
    if (!slip || !box) return;
    // Over what stands beside the calendar it would be cut off.
    const boundary = elementOf(within.current)!;
    void computePosition(slip, box, {
      placement: 'right-start',
      strategy: 'fixed',
      middleware: [
        offset(8),
        flip({ boundary, crossAxis: false, fallbackPlacements: ['left-start', 'bottom', 'top'] }),
        shift({ boundary, padding: 8 }),
      ],
    }).then(({ x, y }) => Object.assign(box.style, { left: `${x}px`, top: `${y}px`, visibility: 'visible' }));
  }, [slip, entry, within]);
  if (!entry) return null;
  const { occurrence, urgency } = entry;
  const calendar = byId.get(occurrence.calendarId);
  const isWork = urgency !== null;
  const lines = [
    slipGist(entry, viewer, now),
    [
      KIND_WORDS[occurrence.kind],
      isWork ? opensWords(occurrence, viewer) : null,
      isWork ? HAND_IN_WORDS[occurrence.handIn] : occurrence.place,
    ]
      .filter(Boolean)
      .join(' · '),
    urgency ? URGENCY_WORDS[urgency] : '',
  ];
  return (
    <Pressable
      ref={card}
      aria-hidden
      tabIndex={-1}
      // What is told of a slip is pressed as the slip itself.
      onPress={() => {
        setSlip(null);
        slip?.click();
      }}
      className="fixed z-50 w-[280px] gap-1 rounded-xl border border-line bg-sheet p-3 shadow-lg"
      style={{ visibility: 'hidden' } as object}
    >
      <View className="flex-row items-center gap-2">
        {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={14} /> : null}
        <Text kind="small">{calendar?.name}</Text>
      </View>
      <Text kind="strong" dir="auto">
        {occurrence.title}
      </Text>
      {lines.filter(Boolean).map((line) => (
        <Text key={line} kind="small" className={line === URGENCY_WORDS.pastDue ? 'text-poppy' : ''}>
          {line}
        </Text>
      ))}
    </Pressable>
  );
}

/** Listens on all slips at once; calls with the one that is looked at, or null. */
function watch(
  root: HTMLElement,
  card: () => HTMLElement | null,
  look: (slip: HTMLElement | null) => void,
): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let begun: { x: number; y: number } | null = null;
  let swallow = false;
  // Where the mouse pressed: what comes under it there by itself, as beside a sheet that opens, is not what
  // it rests on.
  let pressed: { x: number; y: number } | null = null;
  const slipAt = (e: Event) => (e.target as Element).closest<HTMLElement>('[data-slip]');
  const soon = (slip: HTMLElement, then?: () => void) => {
    clearTimeout(timer);
    timer = setTimeout(() => (then?.(), look(slip)), REST);
  };
  const stop = () => (clearTimeout(timer), look(null));
  const leave = () => {
    clearTimeout(timer);
    timer = setTimeout(() => look(null), GRACE);
  };
  const isOnCard = (e: Event) => card()?.contains(e.target as Element) ?? false;
  const over = (e: PointerEvent) => {
    if (e.pointerType !== 'mouse' || e.buttons || (pressed?.x === e.clientX && pressed.y === e.clientY))
      return;
    pressed = null;
    const slip = slipAt(e);
    if (slip) soon(slip);
    else if (isOnCard(e)) clearTimeout(timer);
    else leave();
  };
  const down = (e: PointerEvent) => {
    swallow = false;
    if (isOnCard(e)) return;
    stop();
    const isMouse = e.pointerType === 'mouse';
    pressed = isMouse ? { x: e.clientX, y: e.clientY } : null;
    const slip = isMouse ? null : slipAt(e);
    begun = slip && { x: e.clientX, y: e.clientY };
    // The lift of the finger that looked is no press.
    if (slip) soon(slip, () => (swallow = true));
  };
  const move = (e: PointerEvent) => {
    if (pressed) over(e);
    if (begun && Math.hypot(e.clientX - begun.x, e.clientY - begun.y) > STILL) {
      begun = null;
      stop();
    }
  };
  const up = () => {
    begun = null;
    if (!swallow) clearTimeout(timer);
  };
  const focus = (e: Event) => {
    const slip = (e.target as Element).matches(':focus-visible') ? slipAt(e) : null;
    if (slip) soon(slip);
  };
  const click = (e: Event) => {
    if (!swallow) return;
    swallow = false;
    e.preventDefault();
    e.stopPropagation();
  };
  const listeners = {
    pointerover: over,
    pointerdown: down,
    pointermove: move,
    pointerup: up,
    pointercancel: stop,
    pointerleave: leave,
    focusin: focus,
    focusout: stop,
    click,
  } as Record<string, (e: never) => void>;
  for (const [name, listener] of Object.entries(listeners))
    root.addEventListener(name, listener as EventListener, true);
  // This is loaded after the slips stand: a mouse may be at rest on one already, or the keys. (After a finger, too,
  // one counts as hovered.)
  const already = root.querySelector<HTMLElement>(
    `[data-slip]:focus-visible${matchMedia('(hover: hover)').matches ? ', [data-slip]:hover' : ''}`,
  );
  if (already) soon(already);
  return () => {
    clearTimeout(timer);
    for (const [name, listener] of Object.entries(listeners))
      root.removeEventListener(name, listener as EventListener, true);
  };
}
