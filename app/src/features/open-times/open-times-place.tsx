import { suffices } from '@zephyrfield/core/item/access';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { useLocalSearchParams } from '@/router';
import { useLearner } from '@/data/learner';
import { useOwnLearner } from '@/data/publish';
import { useScreen } from '@/data/screen';
import { Choice } from '@/ui/field';
import { PlaceHead } from '@/ui/place-head';
import { OfferedTimes } from './offered-times';
import { TimesFor } from './times-for';

/** Short meetings: those that are offered to a learner, and those one offers oneself. */
export function OpenTimesPlace() {
  const { learner, learners } = useLearner()!;
  const own = useOwnLearner();
  const { slot } = useLocalSearchParams<{ slot?: string }>();
  const others = learners.filter((l) => !l.isSelf || learners.length === 1);
  const takers = others.filter((l) => suffices(l.access, 'edit'));
  const [chosen, setChosen] = useState('');
  const shown = takers.find((l) => l.id === (chosen || learner.id)) ?? takers[0];
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-3 px-4 pb-12 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <PlaceHead title="Crew" />
      {shown ? (
        <>
          {takers.length > 1 ? (
            <View className="max-w-[300px]">
              <Choice
                label="For"
                value={shown.id}
                options={takers.map((l) => ({ value: l.id, words: l.name }))}
                onChange={(e) => {
                  setChosen(e.currentTarget.value);
                  useScreen.getState().chooseLearner(e.currentTarget.value);
                }}
              />
            </View>
          ) : null}
          <TimesFor key={shown.id} learner={shown} slot={slot ?? ''} />
        </>
      ) : null}
      {learners.some((l) => !l.isSelf) ? <OfferedTimes own={own} learners={others} /> : null}
    </ScrollView>
  );
}
