import Check from 'lucide-react-native/icons/check';
import { useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { lazyComponent } from './lazy';
import { Text } from './text';

const Draw = lazyComponent(() => import('./gestures').then((m) => m.Draw), 'aid');

/** From here on letting go does it, in pixels. */
const FAR = 96;

interface Props {
  /** What drawing it aside does, in a word or two */
  words: string;
  onAway(): void;
  children: ReactNode;
}

/**
 * Something a finger draws to the right to be done with it. What is under it says so; short of that it goes
 * back.
 */
export function DrawAside({ words, onAway, children }: Props) {
  const [x, setX] = useState(0);
  const row = useRef<View>(null);
  return (
    <View className={x > 0 ? 'overflow-hidden rounded-lg' : ''}>
      {x > 0 ? (
        <View
          aria-hidden
          className="absolute bottom-0 left-0 top-0 flex-row items-center gap-2 rounded-lg bg-fern-wash px-3"
          style={{ width: x }}
        >
          <Check size={22} color="var(--fern)" strokeWidth={x > FAR ? 3.5 : 1.5} />
          {x > FAR ? (
            <Text kind="label" numberOfLines={1} className="text-fern">
              {words}
            </Text>
          ) : null}
        </View>
      ) : null}
      <View ref={row} className="touch-pan-y" style={x ? { transform: [{ translateX: x }] } : undefined}>
        {children}
      </View>
      <Draw over={row} far={FAR} onDraw={setX} onAway={onAway} />
    </View>
  );
}
