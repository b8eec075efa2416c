import type { OutlineView } from '@zephyrfield/core/api/outlines';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { dayWords } from './cells';
import { ForFields, WhichOrder, type For } from './for-fields';
import { isDoubtful, type Row } from './rows';

interface Props {
  view: OutlineView;
  rows: readonly Row[];
  value: For;
  calendars: readonly CalendarView[];
  /** It is known which calendar it is for */
  isFixed: boolean;
  /** What the press does that adds what is ticked, in words; and whether it can be pressed */
  words: string;
  mayAdd: boolean;
  isAdding: boolean;
  more: number;
  problem: Parameters<typeof ProblemNotice>[0]['problem'];
  onAdd(): void;
  onChange(to: Partial<For>): void;
}

/** How much was found, what it is for, and the press that adds it. */
export function LookHead(props: Props) {
  const { view, rows, value, calendars, isFixed, words, mayAdd, isAdding, more, problem, onAdd, onChange } =
    props;
  const isNameless = !value.calendarId && !value.name.trim();
  const [isOpen, setOpen] = useState(isNameless);
  const doubtful = rows.filter(isDoubtful).length;
  const found = rows.filter((r) => r.state !== 'gone').length;
  const into = calendars.find((c) => c.id === value.calendarId)?.name ?? value.name;
  const term = `${dayWords(value.from).slice(4)} to ${dayWords(value.to).slice(4)}`;
  const isTerm = value.from !== '' && value.to !== '';
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap items-start gap-x-3 gap-y-2">
        <View className="min-w-[200px] flex-1">
          <Text kind="title" heading={2}>
            {[plural(found, 'row'), doubtful ? `${doubtful} to look at` : ''].filter(Boolean).join(', ')}
          </Text>
          <View className="flex-row flex-wrap items-center gap-x-2">
            <Text kind="small">
              {[
                view.name,
                view.language === 'English' ? '' : `read as ${view.language}`,
                into ? `into ${into}` : '',
                isTerm ? term : '',
              ]
                .filter(Boolean)
                .join(' · ')}
            </Text>
            <Button
              kind="quiet"
              className="-my-2 px-1"
              aria-expanded={isOpen}
              onPress={() => setOpen(!isOpen)}
            >
              {isOpen ? 'Done' : 'Change that'}
            </Button>
          </View>
        </View>
        <Button busy={isAdding} disabled={!mayAdd || isNameless} onPress={onAdd}>
          {words}
        </Button>
      </View>
      {isOpen || isNameless ? (
        <ForFields value={value} calendars={calendars} isFixed={isFixed} onChange={onChange} />
      ) : null}
      <ProblemNotice problem={problem} />
      {view.notes.map((note) => (
        <Notice key={note} kind="warning" title={note} />
      ))}
      {view.isOrderOpen || value.order ? (
        <WhichOrder order={value.order} onChange={(order) => onChange({ order })} />
      ) : null}
      {more ? (
        <Text kind="small">
          {`${plural(more, 'more file')} ${more === 1 ? 'waits and comes' : 'wait and come'} next.`}
        </Text>
      ) : null}
    </View>
  );
}
