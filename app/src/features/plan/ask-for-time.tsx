import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { minutesLeft, type RunUp } from '@zephyrfield/core/plan/run-up';
import { dueWords, hoursWords } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { NOT_COPIED, copyText } from '@/data/copy';
import { useUndo } from '@/data/undo';
import { Button } from '@/ui/button';
import { LongField } from '@/ui/field';
import type { PlanScene } from './use-plan-scene';

interface Props {
  scene: Pick<PlanScene, 'learner' | 'viewer'>;
  occurrence: OccurrenceView;
  runUp: RunUp;
  /** What it asks for */
  about?: 'time' | 'help';
  onClose(): void;
}

/** A note to whoever gave the work, ready to be changed and copied. */
export function AskForTime({ scene, occurrence, runUp, about = 'time', onClose }: Props) {
  const { learner, viewer } = scene;
  const done = runUp.minutes - minutesLeft(runUp);
  const [text, setText] = useState(() =>
    [
      'Hello,',
      '',
      `“${occurrence.title}” is due ${occurrence.due ? dueWords(occurrence.due, viewer) : 'soon'}. I have planned it over my free evenings${done ? ` and done ${hoursWords(done)} of it` : ''}, and ${hoursWords(minutesLeft(runUp))} are still to do.`,
      about === 'time'
        ? 'With everything else that is due I cannot finish it in time. Could I have a few days more, or hand in a part first?'
        : 'I am stuck with it. Could you show me how to go on, or tell me what matters most?',
      '',
      'Thank you,',
      learner.name,
    ].join('\n'),
  );
  const copy = async () => {
    const isCopied = await copyText(text);
    useUndo.getState().say(isCopied ? 'The note is copied.' : NOT_COPIED);
    // What could not be copied stays to be copied by hand.
    if (isCopied) onClose();
  };
  return (
    <View className="gap-2 pt-2">
      <LongField
        label="A note to whoever gave it"
        rows={9}
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
      />
      <View className="flex-row gap-2">
        <Button kind="second" onPress={() => void copy()}>
          Copy the note
        </Button>
        <Button kind="quiet" onPress={onClose}>
          Not now
        </Button>
      </View>
    </View>
  );
}
