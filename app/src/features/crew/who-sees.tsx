import type { MemberView } from '@zephyrfield/core/api/crew';
import type { CalendarView, Learner } from '@zephyrfield/core/api/schemas';
import { may } from '@zephyrfield/core/item/access';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { changeAudience } from '@/data/crew';
import { useCalendars } from '@/data/queries';
import { useUndo } from '@/data/undo';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';

interface Props {
  learner: Learner;
  members: readonly MemberView[];
  /** Who looks */
  personId: string;
}

/** Whom each calendar is for. */
export function WhoSees({ learner, members, personId }: Props) {
  const calendars = useCalendars(learner.id).data ?? [];
  const standing = { personId, access: learner.access, isSelf: learner.isSelf };
  // Whoever can change nothing of it, and from whom nothing is kept, has nothing to read here.
  if (!calendars.some((c) => c.audience || may(standing, 'keepFrom', c))) return null;
  return (
    <Part title="Who sees what" aside="each calendar">
      {calendars.map((c) => (
        <CalendarLine
          key={c.id}
          calendar={c}
          members={members}
          personId={personId}
          mayChange={may(standing, 'keepFrom', c)}
        />
      ))}
    </Part>
  );
}

function CalendarLine({
  calendar,
  members,
  personId,
  mayChange,
}: {
  calendar: CalendarView;
  members: readonly MemberView[];
  personId: string;
  mayChange: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <View role="group" aria-label={calendar.name} className="border-b border-dashed border-line py-1">
      <View className="flex-row items-center gap-3">
        <Flag colour={calendar.colour} flag={calendar.flag} size={20} />
        <View className="min-w-0 flex-1">
          <Text>{calendar.name}</Text>
          <Text kind="small">{audienceWords(calendar, members, personId)}</Text>
        </View>
        {mayChange ? (
          <Button
            kind="quiet"
            className="px-2"
            aria-expanded={open}
            aria-label={`Change who sees ${calendar.name}`}
            onPress={() => setOpen(!open)}
          >
            Change
          </Button>
        ) : null}
      </View>
      {open ? (
        <AudienceForm
          calendar={calendar}
          members={members.filter((m) => m.personId !== personId)}
          onDone={() => setOpen(false)}
        />
      ) : null}
    </View>
  );
}

function audienceWords({ audience }: CalendarView, members: readonly MemberView[], personId: string): string {
  if (!audience) return 'everybody in the crew';
  const names = members.filter((m) => audience.persons.includes(m.personId) && m.personId !== personId);
  const only = names.length ? `only you and ${names.map((m) => m.name).join(', ')}` : 'only you';
  return `${only}; for the others ${audience.others === 'busy' ? 'you are just busy' : 'it is not there'}`;
}

const WHOM = [
  ['all', 'everybody'],
  ['some', 'only some'],
  ['me', 'only me'],
] as const;
const OTHERS = [
  ['busy', 'that you are busy'],
  ['nothing', 'nothing at all'],
] as const;

function AudienceForm({
  calendar,
  members,
  onDone,
}: {
  calendar: CalendarView;
  members: readonly MemberView[];
  onDone(): void;
}) {
  const { id, learnerId, name, audience } = calendar;
  const memberIdsOf = (persons: readonly string[]) =>
    members.filter((m) => persons.includes(m.personId)).map((m) => m.id);
  const [chosen, setChosen] = useState<readonly string[]>(audience ? memberIdsOf(audience.persons) : []);
  const [whom, setWhom] = useState<'all' | 'some' | 'me'>(
    !audience ? 'all' : memberIdsOf(audience.persons).length ? 'some' : 'me',
  );
  const [others, setOthers] = useState(audience?.others ?? 'busy');
  const save = useMutation({
    mutationFn: () =>
      changeAudience(
        learnerId,
        id,
        whom === 'all' ? null : { members: whom === 'me' ? [] : [...chosen], others },
      ),
    onSuccess: () => {
      const before = audience && { members: memberIdsOf(audience.persons), others: audience.others };
      useUndo
        .getState()
        .did({ words: `Who sees ${name} changed`, undo: () => changeAudience(learnerId, id, before) });
      onDone();
    },
  });
  return (
    <View className="gap-3 pb-3 pl-8">
      <View className="-ml-2">
        <Choices label={`${name} is for`} all={WHOM} value={whom} onChange={(v) => setWhom(v)} />
      </View>
      {whom === 'some' ? (
        <Ticks
          label="Beside you"
          all={members.map((m) => [m.id, m.name])}
          chosen={chosen}
          onChange={setChosen}
        />
      ) : null}
      {whom === 'all' ? null : (
        <View className="gap-0.5">
          <Text kind="label">The others see</Text>
          <View className="-ml-2">
            <Choices label="The others see" all={OTHERS} value={others} onChange={(v) => setOthers(v)} />
          </View>
        </View>
      )}
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      <View className="flex-row gap-2">
        <Button busy={save.isPending} onPress={() => save.mutate()}>
          Save
        </Button>
        <Button kind="second" onPress={onDone}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
