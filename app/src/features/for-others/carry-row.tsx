import type { CarriedItem } from '@zephyrfield/core/item/carry-forward';
import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { dayIn } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { plural } from '@zephyrfield/core/words/text';
import { shortDay, shortWhen } from '@zephyrfield/core/words/when';
import { createElement, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { DateField } from '@/ui/date-field';
import { Text } from '@/ui/text';

interface Props {
  row: CarriedItem;
  /** Moment when it was, in words */
  was: string;
  zone: Zone;
  isOver: boolean;
  isTaken: boolean;
  onToggle(): void;
  onDay(value: string): void;
}

/** One item that may be carried: when it was, when it will be, and what is doubtful about that. */
export function CarryRow({ row, was, zone, isOver, isTaken, onToggle, onDay }: Props) {
  const { item, count, doubt } = row;
  const [changing, setChanging] = useState(false);
  const will = item.when ? shortWhen(item.when, zone) : 'no date';
  const doubtful = isOver ? 'already over' : doubtWords(row);
  return (
    <View role="listitem" className="gap-1 border-b border-dashed border-line py-1">
      <View className="flex-row items-center gap-3">
        {createElement(
          'label',
          { className: 'flex min-h-[44px] min-w-0 flex-1 cursor-pointer flex-row items-center gap-3' },
          createElement('input', {
            type: 'checkbox',
            checked: isTaken,
            onChange: onToggle,
            'aria-label': `Carry ${item.title} forward`,
            className: 'h-5 w-5 shrink-0 accent-[var(--lagoon)]',
          }),
          <View className="min-w-0 flex-1">
            <Text kind="strong" className={`break-words ${isTaken ? '' : 'text-ink2 line-through'}`}>
              {item.title}
            </Text>
            <Text kind="small">
              {`${was} → `}
              <Text kind="small" className="font-bold text-ink">
                {will}
              </Text>
              {item.repeat ? ` · ${plural(count, 'date')}` : ''}
            </Text>
            {doubtful ? (
              <Text kind="small" className={doubt && !isOver ? 'font-bold text-marigold' : ''}>
                {doubtful}
              </Text>
            ) : null}
          </View>,
        )}
        {item.when && !item.repeat ? (
          <Button
            kind="quiet"
            className="px-2"
            aria-expanded={changing}
            aria-label={`Change the day of ${item.title}`}
            onPress={() => setChanging(!changing)}
          >
            Change
          </Button>
        ) : null}
      </View>
      {changing && item.when ? (
        <View className="max-w-[260px] pb-2 pl-8">
          <DateField label="On" value={formatDate(dayIn(item.when, zone))} onChange={onDay} />
        </View>
      ) : null}
    </View>
  );
}

function doubtWords({ doubt }: CarriedItem): string {
  switch (doubt?.kind) {
    case 'dayOff':
      return `${shortDay(parseDate(doubt.was))} is ${doubt.name}: it is on the next school day`;
    case 'afterTerm':
      return 'after the end of the new term';
    case 'undated':
      return 'has no date';
    default:
      return '';
  }
}
