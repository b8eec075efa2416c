import { useEffect, type RefObject } from 'react';
import type { View } from 'react-native';
import { useSwipeable } from 'react-swipeable';
import { elementOf } from './element';

/** Strokes of a finger over something else. They draw nothing, and are loaded after what they are for. */
type Target = RefObject<View | null>;

/**
 * Has strokes over an element heard; these are touch alone, since a mouse has buttons and keys for all of it.
 */
function useHeard(target: Target, listen: (element: HTMLElement | null) => void): void {
  useEffect(() => {
    listen(elementOf(target.current));
    return () => listen(null);
    // The listener is one and the same for as long as this is drawn.
  }, [target]); // eslint-disable-line react-hooks/exhaustive-deps
}

export interface SwipeProps {
  over: Target;
  onLeft(): void;
  onRight(): void;
}

/** A quick stroke to the left or right. A slow one is somebody reading, or carrying something. */
export function Swipe({ over, onLeft, onRight }: SwipeProps) {
  const { ref } = useSwipeable({
    delta: 50,
    swipeDuration: 350,
    onSwipedLeft: onLeft,
    onSwipedRight: onRight,
  });
  useHeard(over, ref);
  return null;
}

export interface PullProps {
  /** What is taken hold of */
  grip: Target;
  /** Tells how far it is drawn down, in pixels; 0 when it is let go of */
  onPull(down: number): void;
  onAway(): void;
}

/**
 * How far a sheet is drawn down before it is let go of, in pixels; a quick stroke (pixels a millisecond)
 * needs less.
 */
const FAR = 120;
const QUICK = 0.6;

/** A pull downwards that puts something away. */
export function Pull({ grip, onPull, onAway }: PullProps) {
  const { ref } = useSwipeable({
    delta: 8,
    preventScrollOnSwipe: true,
    onSwiping: ({ deltaY }) => onPull(Math.max(0, deltaY)),
    onSwiped: ({ deltaY, vxvy: [, speed] }) =>
      deltaY > FAR || (deltaY > 24 && speed > QUICK) ? onAway() : onPull(0),
  });
  useHeard(grip, ref);
  return null;
}

export interface DrawProps {
  over: Target;
  /** How far it has to be drawn aside for that to count, in pixels */
  far: number;
  /** Tells how far it is drawn to the right, in pixels; 0 when it is let go of */
  onDraw(right: number): void;
  onAway(): void;
}

/** A pull to the right that does something with what is pulled. */
export function Draw({ over, far, onDraw, onAway }: DrawProps) {
  const { ref } = useSwipeable({
    delta: 12,
    preventScrollOnSwipe: true,
    onSwiping: ({ deltaX, deltaY }) => onDraw(Math.abs(deltaY) > Math.abs(deltaX) ? 0 : Math.max(0, deltaX)),
    onSwiped: ({ deltaX, dir }) => {
      onDraw(0);
      if (dir === 'Right' && deltaX > far) onAway();
    },
  });
  useHeard(over, ref);
  return null;
}
