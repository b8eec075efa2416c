import X from 'lucide-react-native/icons/x';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Modal, Pressable, ScrollView, View } from 'react-native';
import { IconButton } from './button';
import { lazyComponent } from './lazy';
import { useEscape } from './use-escape';
import { useFocusBack } from './use-focus-back';
import { useIsWide } from './use-is-wide';
import { elementOf } from './element';

interface SheetProps {
  /** Names it for screen readers */
  label: string;
  /** Wider than an item's, for a form */
  roomy?: boolean;
  /** Another sheet is open beside it: it gives way where there is no room for both */
  givesWay?: boolean;
  onClose(): void;
  children: ReactNode;
}

/**
 * Beside the view on a wide screen, over it from below on a phone, where the focus stays inside and a press
 * outside or a drag downwards closes it as well. Escape closes it everywhere.
 */
export function Sheet({ label, roomy = false, givesWay = false, onClose, children }: SheetProps) {
  const wide = useIsWide();
  const body = (
    <>
      <ScrollView
        className={`flex-1 ${wide ? '' : 'mt-11'}`}
        contentContainerClassName={`px-5 pb-8 ${wide ? 'pt-5' : 'pt-1'}`}
      >
        {children}
      </ScrollView>
      <View className={`absolute right-2 rounded-lg bg-sheet ${wide ? 'top-2' : 'top-0'}`}>
        <IconButton icon={X} label="Close" onPress={onClose} />
      </View>
    </>
  );
  if (wide) {
    return (
      <Beside label={label} width={roomy ? 'w-[440px]' : 'w-[380px]'} givesWay={givesWay} onClose={onClose}>
        {body}
      </Beside>
    );
  }
  return (
    // Of two over each other, only the upper one is there: what lies below could not be reached.
    <Modal transparent visible={!givesWay} animationType="none" onRequestClose={onClose} aria-label={label}>
      <FromBelow onClose={onClose}>{body}</FromBelow>
    </Modal>
  );
}

/**
 * The focus goes into it (also when it need not give way any more), and back to where it was when it closes:
 * what is opened by key is read and left by key.
 */
function Beside({
  label,
  width,
  givesWay,
  onClose,
  children,
}: Pick<SheetProps, 'label' | 'onClose' | 'children'> & { width: string; givesWay: boolean }) {
  const panel = useRef<View>(null);
  useEscape(onClose);
  useFocusBack();
  useEffect(() => {
    if (givesWay) return;
    const element = elementOf(panel.current)!;
    if (!element.contains(document.activeElement)) element.focus({ preventScroll: true });
  }, [givesWay]);
  return (
    <View
      ref={panel}
      tabIndex={-1}
      role="complementary"
      aria-label={label}
      className={`${width} border-l border-line bg-sheet ${givesWay ? 'max-[1599px]:hidden' : ''}`}
    >
      {children}
    </View>
  );
}

const Pull = lazyComponent(() => import('./gestures').then((m) => m.Pull), 'aid');

function FromBelow({ onClose, children }: Pick<SheetProps, 'onClose' | 'children'>) {
  const [down, setDown] = useState(0);
  useFocusBack();
  const grip = useRef<View>(null);
  return (
    <View className="flex-1 justify-end">
      <Pressable aria-hidden tabIndex={-1} onPress={onClose} className="absolute inset-0 bg-black/40" />
      <View
        className="max-h-[88%] min-h-[50%] rounded-t-2xl bg-sheet"
        style={{ transform: [{ translateY: down }] }}
      >
        {children}
        <View
          ref={grip}
          aria-hidden
          className="absolute left-0 right-14 top-0 h-11 cursor-grab touch-none items-center pl-14 pt-2"
        >
          <View className="h-1 w-10 rounded-full bg-line" />
        </View>
        <Pull grip={grip} onPull={setDown} onAway={onClose} />
      </View>
    </View>
  );
}
