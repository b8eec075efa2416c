import { initialsOf } from '@zephyrfield/core/item/crew';
import type { Whose } from '@zephyrfield/core/view/slips';
import { View } from 'react-native';
import { Text } from './text';

/** Somebody's mark: their initials on a cleat, a bar with two horns. The name stands beside it, or is said. */
export function Cleat({ name }: { name: string }) {
  return (
    <View
      role="img"
      aria-label={name}
      className="h-[28px] min-w-[44px] items-center justify-center rounded-[3px] border-x-[7px] border-y border-ink2 bg-sheet px-1"
    >
      <Text kind="label" className="text-ink" aria-hidden>
        {initialsOf(name).join('')}
      </Text>
    </View>
  );
}

const MARK =
  'h-[17px] min-w-[19px] shrink-0 items-center justify-center self-center rounded-[2px] border-x-[3px] border-y border-ink2 bg-sheet px-px';

/** The same on a slip, where several learners are shown together: as little as tells them apart. Nothing for one alone. */
export function WhoseMark({ whose }: { whose: Whose | undefined }) {
  if (!whose) return null;
  return (
    <View role="img" aria-label={whose.name} className={MARK}>
      <Text kind="tight" className="text-ink" aria-hidden>
        {whose.mark}
      </Text>
    </View>
  );
}
