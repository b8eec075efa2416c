import { createElement, useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { DateField, TimeField } from '@/ui/date-field';
import { Choice, Field } from '@/ui/field';
import { Text } from '@/ui/text';
import { COLUMNS, dayWords, timesWords, whenOf } from './cells';
import { isDoubtful, remarkOf, type Row, type RowsProps, type Step } from './rows';
import { useShown } from './use-shown';

/** The mark at the side of the row that is looked at. */
const SHOWN = 'shadow-[inset_3px_0_0_0_var(--lagoon)]';

/** The rows where there is no room for a table: one below the other, each opened to be changed. */
export function RowCards({ rows, label, shown, onStep, onRow }: RowsProps) {
  const box = useRef<View>(null);
  useShown(box, shown);
  const [open, setOpen] = useState<string | null>(null);
  return (
    <View ref={box} role="list" aria-label={label}>
      {rows.map((row, n) => (
        <RowCard
          key={row.id}
          row={row}
          next={rows[n + 1] ?? null}
          isShown={row.id === shown}
          isOpen={open === row.id}
          onStep={onStep}
          onOpen={() => {
            setOpen(open === row.id ? null : row.id);
            onRow(row.id);
          }}
        />
      ))}
    </View>
  );
}

function RowCard({
  row,
  next,
  isShown,
  isOpen,
  onStep,
  onOpen,
}: {
  row: Row;
  /** The row below it, which it can be joined with */
  next: Row | null;
  isShown: boolean;
  isOpen: boolean;
  onStep(step: Step): void;
  onOpen(): void;
}) {
  const remark = remarkOf(row, dayWords);
  const shown = (key: string) => COLUMNS.find((c) => c.key === key)!.shows(row);
  const facts = [shown('kind'), timesWords(row), shown('handIn'), row.place].filter(Boolean).join(' · ');
  return (
    <View
      role="listitem"
      {...{ dataSet: { line: row.id } }}
      className={`gap-2 border-b border-line py-2 ${isShown ? SHOWN : ''} ${isDoubtful(row) ? 'bg-marigold-wash' : ''}`}
    >
      <View className="flex-row items-start gap-2 px-1">
        {createElement(
          'label',
          { className: 'flex min-h-[44px] min-w-0 flex-1 cursor-pointer flex-row items-start gap-3' },
          createElement('input', {
            type: 'checkbox',
            checked: row.ticked,
            onChange: () => onStep({ do: 'tick', ids: [row.id], on: !row.ticked }),
            'aria-label': row.state === 'gone' ? `Take ${row.title} away` : `Add ${row.title}`,
            className: 'mt-1 h-5 w-5 shrink-0 accent-[var(--lagoon)]',
          }),
          <View className="min-w-0 flex-1">
            <Text kind="strong" className={`break-words ${row.ticked ? '' : 'text-ink2'}`}>
              {row.title}
            </Text>
            <Text>{[whenOf(row), shown('minute')].filter(Boolean).join(', ')}</Text>
            <Text kind="small">{facts}</Text>
            {remark ? (
              <Text kind="small" className={isDoubtful(row) ? 'font-bold text-marigold' : ''}>
                {remark}
              </Text>
            ) : null}
          </View>,
        )}
        <Button
          kind="quiet"
          className="px-2"
          aria-expanded={isOpen}
          aria-label={`Change ${row.title}`}
          onPress={onOpen}
        >
          {isOpen ? 'Close' : 'Change'}
        </Button>
      </View>
      {isOpen ? <RowForm row={row} next={next} onStep={onStep} /> : null}
    </View>
  );
}

function RowForm({ row, next, onStep }: { row: Row; next: Row | null; onStep(step: Step): void }) {
  const change = (key: string, value: string) => {
    const to = COLUMNS.find((c) => c.key === key)!.change(value, row);
    if (to) onStep({ do: 'edit', ids: [row.id], to });
  };
  return (
    <View role="group" aria-label={`Change ${row.title}`} className="gap-3 px-1 pb-2">
      {COLUMNS.map(({ key, name, value, ...column }) => {
        const field = column.field(row);
        const shared = { label: name, value: value(row) };
        if (field === 'date') return <DateField key={key} {...shared} onChange={(to) => change(key, to)} />;
        if (field === 'time') return <TimeField key={key} {...shared} onChange={(to) => change(key, to)} />;
        if (field === 'text')
          return (
            <Field
              key={key}
              label={name}
              defaultValue={shared.value}
              onBlur={(e) => change(key, e.currentTarget.value)}
            />
          );
        return (
          <Choice
            key={key}
            {...shared}
            options={field}
            onChange={(e) => change(key, e.currentTarget.value)}
          />
        );
      })}
      {next && row.state === 'new' && next.state === 'new' ? (
        <Button
          kind="quiet"
          className="-ml-4 self-start"
          onPress={() => onStep({ do: 'join', ids: [row.id, next.id] })}
        >
          {`Join with “${next.title}”`}
        </Button>
      ) : null}
    </View>
  );
}
