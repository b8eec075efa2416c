import type { SpanPiece } from '@zephyrfield/core/view/days';
import { View } from 'react-native';
import { Ribbon } from '@/ui/slip-line';
import { DraggableRibbon } from './drag';
import { slipOf, type Drawing } from './drawing';

interface Props {
  span: SpanPiece;
  /** Number of days its row has, and the first of them */
  columns: number;
  firstDay: number;
  /** How far below the row's top it lies, in pixels */
  top: number;
  drawing: Drawing;
}

/** What lasts several days, over the columns of a row of days. */
export function SpanRibbon({ span, columns, firstDay, top, drawing }: Props) {
  const { id, spoken, colour, whose, title, chosen, onOpen } = slipOf(span.entry, drawing);
  return (
    <View
      className="pointer-events-auto absolute px-0.5"
      style={{
        left: `${(span.from / columns) * 100}%`,
        width: `${((span.to - span.from + 1) / columns) * 100}%`,
        top,
      }}
    >
      <DraggableRibbon
        entry={span.entry}
        part={` ${firstDay}`}
        isOwn={span.entry.occurrence.own && !span.after}
      >
        <Ribbon
          id={id}
          colour={colour}
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
