import type { SpanPiece } from '@zephyrfield/core/view/days';
import { View } from 'react-native';
import { Ribbon } from '@/ui/slip-line';
import { DraggableRibbon } from './drag';
import { slipOf, type Drawing } from './drawing';

interface Props {
  span: SpanPiece;
  /** Width of each day of its row, in pixels; or the number of days, all alike */
  widths: readonly number[] | { columns: number };
  firstDay: number;
  /** How far below the row's top it lies, in pixels */
  top: number;
  drawing: Drawing;
}

/** Tells where a span lies in its row. */
function stretchOf({ from, to }: SpanPiece, widths: Props['widths']) {
  if ('columns' in widths) {
    const part = (days: number) => `${(days / widths.columns) * 100}%` as const;
    return { left: part(from), width: part(to - from + 1) };
  }
  const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);
  return { left: sum(widths.slice(0, from)), width: sum(widths.slice(from, to + 1)) };
}

/** What lasts several days, over the columns of a row of days. */
export function SpanRibbon({ span, widths, firstDay, top, drawing }: Props) {
  const { id, spoken, colour, flag, whose, title, chosen, onOpen } = slipOf(span.entry, drawing);
  return (
    <View className="pointer-events-auto absolute px-0.5" style={{ ...stretchOf(span, widths), top }}>
      <DraggableRibbon
        entry={span.entry}
        part={` ${firstDay}`}
        isOwn={span.entry.occurrence.own && !span.after}
      >
        <Ribbon
          id={id}
          colour={colour}
          flag={flag}
          whose={whose}
          title={title}
          spoken={spoken}
          before={span.before}
          after={span.after}
          chosen={chosen}
          onOpen={onOpen}
        />
      </DraggableRibbon>
    </View>
  );
}
