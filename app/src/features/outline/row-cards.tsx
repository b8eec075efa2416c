import { createElement, useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { DateField, TimeField } from '@/ui/date-field';
import { elementOf } from '@/ui/element';
import { Choice, Field } from '@/ui/field';
import { Text } from '@/ui/text';
import { COLUMNS, dayWords, timesWords, whenOf } from './cells';
import { isDoubtful, remarkOf, type Row, type Step } from './rows';

interface Props {
  rows: readonly Row[];
  chosen: readonly string[];
  label: string;
  shown: string | null;
  onStep(step: Step): void;
  onRow(id: string): void;
}

/** The rows where there is no room for a table: one below the other, each opened to be changed. */
export function RowCards({ rows, label, shown, onStep, onRow }: Props) {
  const box = useRef<View>(null);
  useEffect(() => {
    elementOf(box.current)?.querySelector(`[data-line="${shown}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [shown]);
  const [open, setOpen] = useState<string | null>(null);
  return (
    <View ref={box} role="list" aria-label={label}>
      {rows.map((row) => (
        <RowCard
          key={row.id}
          row={row}
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
  isShown,
  isOpen,
  onStep,
  onOpen,
}: {
  row: Row;
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
      className={`gap-2 border-b border-line py-2 ${isShown ? 'shadow-[inset_3px_0_0_0_var(--lagoon)]' : ''} ${isDoubtful(row) ? 'bg-marigold-wash' : ''}`}
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
      {isOpen ? <RowForm row={row} onStep={onStep} /> : null}
    </View>
  );
}

function RowForm({ row, onStep }: { row: Row; onStep(step: Step): void }) {
  const change = (key: string, value: string) => {
    const to = COLUMNS.find((c) => c.key === key)!.change(value, row);
    if (to) onStep({ do: 'edit', ids: [row.id], to });
  };
  return (
    <View role="group" aria-label={`Change ${row.title}`} className="gap-3 px-1 pb-2">
      {COLUMNS.map(({ key, name, field, value }) => {
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
    </View>
  );
}
