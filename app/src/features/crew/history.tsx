import type { AccessEventView } from '@zephyrfield/core/api/crew';
import { ACCESS_NAMES } from '@zephyrfield/core/item/crew';
import type { Viewer } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { dayOf } from './day-of';

const FIRST = 5;

/** What happened with access, the latest first. */
export function History({ events, viewer }: { events: readonly AccessEventView[]; viewer: Viewer }) {
  const [all, setAll] = useState(false);
  if (!events.length) return null;
  return (
    <Part title="What happened with access" aside="for keepers">
      <View role="list" className="gap-1">
        {(all ? events : events.slice(0, FIRST)).map((e, n) => (
          <View key={n} role="listitem" className="flex-row gap-3">
            <Text kind="small" className="w-[92px] shrink-0 pt-0.5">
              {dayOf(e.at, viewer)}
            </Text>
            <Text className="min-w-0 flex-1">{wordsOf(e)}</Text>
          </View>
        ))}
      </View>
      {events.length > FIRST ? (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setAll(!all)}>
          {all ? 'Show less' : `Show all ${events.length}`}
        </Button>
      ) : null}
    </Part>
  );
}

const WAY: Readonly<Record<string, string>> = { code: 'by a code', link: 'by a link' };

/** Gives what happened, as a sentence. */
export function wordsOf({ kind, by, about, access }: AccessEventView): string {
  const may = access ? ACCESS_NAMES[access] : '';
  switch (kind) {
    case 'invited':
      return `${by} invited ${WAY[about] ? `somebody ${WAY[about]}` : about} (${may}).`;
    case 'takenBack':
      return `${by} took back an invitation ${WAY[about] ?? `to ${about}`}.`;
    case 'came':
      return about === 'own' ? `${by} came: it is their own schedule.` : `${by} came (${may}).`;
    case 'changed':
      return `${by} changed what ${about} may do: ${may}.`;
    case 'left':
      return `${by} left.`;
    case 'removed':
      return `${by} removed ${about}.`;
    case 'keptFrom':
      return `${by} chose whom ${about} is for.`;
    case 'forAll':
      return `${by} opened ${about} to everybody.`;
    case 'goesOut':
      return `${by} let it go out by the link ${about}.`;
    case 'outNoMore':
      return `${by} took the link ${about} back.`;
    case 'own':
      return about ? `${by} said that it is ${about}’s own schedule.` : `${by} said that it is nobody’s own.`;
  }
}
