import type { ReactNode } from 'react';
import { Pressable } from 'react-native';

interface Props {
  /** The entry's id, where it has one: by it, the slip is found for keys, the quick look and the focus */
  id: string | undefined;
  spoken: string;
  chosen: boolean;
  onOpen(): void;
  className: string;
  children: ReactNode;
}

/** The part of a slip that is pressed to open it, in whichever view it stands. */
export function SlipPress({ id, spoken, chosen, onOpen, className, children }: Props) {
  return (
    <Pressable
      role="button"
      aria-label={spoken}
      dataSet={{ slip: id }}
      onPress={onOpen}
      className={`overflow-hidden ${className} ${chosen ? 'ring-2 ring-lagoon' : ''}`}
    >
      {children}
    </Pressable>
  );
}
