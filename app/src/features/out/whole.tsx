import type { ArchiveLook } from '@zephyrfield/core/api/archive';
import { may } from '@zephyrfield/core/item/access';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { longDay } from '@zephyrfield/core/words/when';
import { dayIn, instantOf } from '@zephyrfield/core/time/when';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { router } from '@/router';
import { archiveAddress, lookAtArchive, restoreSchedule } from '@/data/archives';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useSession } from '@/data/queries';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { FileDrop } from '@/ui/file-drop';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';

/** The whole schedule as one archive, for who keeps it; and an archive brought back. */
export function Whole() {
  const { learner } = useLearner()!;
  const personId = useSession().data!.person!.id;
  const keeps = may({ personId, access: learner.access, isSelf: learner.isSelf }, 'keep');
  const [file, setFile] = useState<File | null>(null);
  const look = useMutation({
    mutationFn: (chosen: File) => lookAtArchive(chosen, keeps ? learner.id : null),
    onMutate: setFile,
  });
  const restore = useMutation({
    mutationFn: ({ chosen, inPlace }: { chosen: File; inPlace: boolean }) =>
      restoreSchedule(chosen, inPlace ? learner.id : null),
    onSuccess: () => router.replace('/today'),
  });
  return (
    <Part title="All of it, to keep" aside="">
      <Text kind="small">
        An archive holds the schedule with everything that was added: ticks, records, notes of yours, briefs,
        files, run-ups. It can be brought back here or elsewhere.
      </Text>
      {keeps ? (
        <Button
          kind="second"
          className="self-start"
          onPress={() => globalThis.location.assign(archiveAddress(learner.id))}
        >
          Make an archive
        </Button>
      ) : null}
      {look.data && file ? (
        <Found
          look={look.data}
          name={keeps ? learner.name : null}
          busy={restore.isPending}
          onGo={(inPlace) => restore.mutate({ chosen: file, inPlace })}
          onCancel={() => {
            look.reset();
            restore.reset();
          }}
        />
      ) : (
        <FileDrop
          label="An archive"
          words={look.isPending ? 'Looking at it …' : 'To bring an archive back, drop it here, or'}
          button="Choose an archive"
          onFiles={([chosen]) => chosen && look.mutate(chosen)}
        />
      )}
      <ProblemNotice
        problem={(look.error && problemOf(look.error)) ?? (restore.error && problemOf(restore.error))}
      />
    </Part>
  );
}

interface FoundProps {
  look: ArchiveLook;
  /** Whose schedule it may take the place of; null where one may not */
  name: string | null;
  busy: boolean;
  onGo(inPlace: boolean): void;
  onCancel(): void;
}

/** What is in an archive, and what bringing it back would come to. */
function Found({ look, name, busy, onGo, onCancel }: FoundProps) {
  const { viewer } = useLearner()!;
  const [where, setWhere] = useState<'own' | 'place'>('own');
  const { calendars, items, finished, briefs, files, runUps, sealedLinks, compared } = look;
  const made = longDay(dayIn(instantOf(Date.parse(look.made)), viewer));
  const counts = [
    plural(calendars.length, 'calendar'),
    `${items} made by hand`,
    `${finished} ticked off`,
    plural(briefs, 'brief'),
    plural(files, 'file'),
    plural(runUps, 'run-up'),
  ];
  return (
    <View role="group" aria-label="What is in the archive" className="gap-3 rounded-xl bg-sheet p-4">
      <Text kind="lead">{`The schedule of ${look.name}, as of ${made}`}</Text>
      <Text>{counts.join(' · ')}</Text>
      <Text kind="small">{calendars.join(', ')}</Text>
      {sealedLinks.length ? (
        <Text>
          {`${plural(sealedLinks.length, 'link')} cannot be opened here. Enter the address again in Gather: ${sealedLinks.join(', ')}.`}
        </Text>
      ) : null}
      {name ? (
        <View className="-ml-2">
          <Choices<'own' | 'place'>
            label="Bring it back"
            all={[
              ['own', 'as a schedule of its own'],
              ['place', `in the place of ${firstName(name)}’s`],
            ]}
            value={where}
            onChange={setWhere}
          />
        </View>
      ) : null}
      {where === 'place' ? (
        <View className="gap-1">
          <Text>
            The crew, its links and invitations go over to it. The schedule as it is now is kept, for you
            alone, under a name that says until when it counted.
          </Text>
          <Text kind="small">
            {compared.titles.length
              ? `Of what was made by hand, ${compared.titles.join('; ')}.`
              : 'What was made by hand is the same in both.'}
          </Text>
        </View>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button busy={busy} onPress={() => onGo(where === 'place')}>
          Bring it back
        </Button>
        <Button kind="second" onPress={onCancel}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
