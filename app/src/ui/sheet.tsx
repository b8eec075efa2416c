import X from 'lucide-react-native/icons/x';
import type { ReactNode } from 'react';
import { Modal, Pressable, ScrollView, View } from 'react-native';
import { IconButton } from './button';
import { useIsWide } from './use-is-wide';

interface SheetProps {
  /** Names it for screen readers */
  label: string;
  onClose(): void;
  children: ReactNode;
}

/**
 * Beside the view on a wide screen, over it from below on a phone. There the focus stays inside, and Escape and a press
 * outside close it.
 */
export function Sheet({ label, onClose, children }: SheetProps) {
  const wide = useIsWide();
  const body = (
    <>
      <ScrollView className="flex-1" contentContainerClassName="px-5 pb-8 pt-5">
        {children}
      </ScrollView>
      <View className="absolute right-2 top-2 rounded-lg bg-sheet">
        <IconButton icon={X} label="Close" onPress={onClose} />
      </View>
    </>
  );
  if (wide) {
    return (
      <View role="complementary" aria-label={label} className="w-[380px] border-l border-line bg-sheet">
        {body}
      </View>
    );
  }
  return (
    <Modal transparent animationType="none" onRequestClose={onClose} aria-label={label}>
      <View className="flex-1 justify-end">
        <Pressable aria-hidden tabIndex={-1} onPress={onClose} className="absolute inset-0 bg-black/40" />
        <View className="max-h-[88%] min-h-[50%] rounded-t-2xl bg-sheet">{body}</View>
      </View>
    </Modal>
  );
}
