import { createContext, useContext, type ReactNode } from 'react';
import { View } from 'react-native';
import { Text } from './text';

/** Ways that stand at the head of every place: to the other rooms behind its door, back to what it belongs to, to oneself. */
export const Ways = createContext<{
  rooms: ReactNode;
  back: ReactNode;
  self: ReactNode;
  /** Whose schedule is looked at; for a head that has it in its own line */
  whose: ReactNode;
}>({
  rooms: null,
  back: null,
  self: null,
  whose: null,
});

interface Props {
  title: string;
  /** Stands below the title: what is known at a glance */
  says?: ReactNode;
  /** Stands beside it: what can be done */
  children?: ReactNode;
}

/** The head of a place: its name, what is known at a glance, what can be done, and the ways from here. */
export function PlaceHead({ title, says, children }: Props) {
  const { rooms, back } = useContext(Ways);
  return (
    <View className="gap-1">
      {back}
      <View className="flex-row items-start gap-x-3">
        <View className="min-w-0 flex-1 flex-row flex-wrap items-start gap-x-3 gap-y-1">
          {/* With large text the rest goes below it. */}
          <View className="min-w-[8rem] flex-1">
            <Text kind="display" heading={1}>
              {title}
            </Text>
            {typeof says === 'string' ? <Text className="text-ink2">{says}</Text> : says}
          </View>
          {children}
        </View>
        <WayToOneself />
      </View>
      {rooms}
    </View>
  );
}

/** The way to oneself at the upper right of a phone; a wide screen has it at the foot of its rail. */
export function WayToOneself() {
  return <View className="wide:hidden">{useContext(Ways).self}</View>;
}
