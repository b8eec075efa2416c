import X from 'lucide-react-native/icons/x';
import { useRef, useState, type ReactNode } from 'react';
import { Modal, Pressable, ScrollView, View } from 'react-native';
import { IconButton } from './button';
import { later } from './later';
import { useIsWide } from './use-is-wide';

interface SheetProps {
  /** Names it for screen readers */
  label: string;
  /** Wider than an item's, for a form */
  roomy?: boolean;
  onClose(): void;
  children: ReactNode;
}

/**
 * Beside the view on a wide screen, over it from below on a phone. There the focus stays inside, and Escape, a press
 * outside and a drag downwards close it.
 */
export function Sheet({ label, roomy = false, onClose, children }: SheetProps) {
  const wide = useIsWide();
  const body = (
    <>
      <ScrollView className={`flex-1 ${wide ? '' : 'mt-11'}`} contentContainerClassName={`px-5 pb-8 ${wide ? 'pt-5' : 'pt-1'}`}>
        {children}
      </ScrollView>
      <View className={`absolute right-2 rounded-lg bg-sheet ${wide ? 'top-2' : 'top-0'}`}>
        <IconButton icon={X} label="Close" onPress={onClose} />
      </View>
    </>
  );
  if (wide) {
    return (
      <View role="complementary" aria-label={label} className={`${roomy ? 'w-[440px]' : 'w-[380px]'} border-l border-line bg-sheet`}>
        {body}
      </View>
    );
  }
  return (
    <Modal transparent animationType="none" onRequestClose={onClose} aria-label={label}>
      <FromBelow onClose={onClose}>{body}</FromBelow>
    </Modal>
  );
}

const Pull = later(() => import('./gestures').then((m) => m.Pull));

function FromBelow({ onClose, children }: Pick<SheetProps, 'onClose' | 'children'>) {
  const [down, setDown] = useState(0);
  const grip = useRef<View>(null);
  return (
    <View className="flex-1 justify-end">
      <Pressable aria-hidden tabIndex={-1} onPress={onClose} className="absolute inset-0 bg-black/40" />
      <View className="max-h-[88%] min-h-[50%] rounded-t-2xl bg-sheet" style={{ transform: [{ translateY: down }] }}>
        {children}
        <View ref={grip} aria-hidden className="absolute left-0 right-14 top-0 h-11 cursor-grab touch-none items-center pl-14 pt-2">
          <View className="h-1 w-10 rounded-full bg-line" />
        </View>
        <Pull grip={grip} onPull={setDown} onAway={onClose} />
      </View>
    </View>
  );
}
