import type { PlanSettings } from '@zephyrfield/core/plan/evenings';
import { View } from 'react-native';
import { IconButton } from '@/ui/button';
import { Choice } from '@/ui/field';
import { SavedField } from '@/ui/saved-field';
import { Text } from '@/ui/text';
import X from 'lucide-react-native/icons/x';
import type { PlanScene } from './use-plan-scene';

/** Puts a change of the settings, told in words; what is wrong with it stands by its field. */
export type PutSettings = (change: Partial<PlanSettings>, words: string, field: string) => void;

interface Props {
  scene: Pick<PlanScene, 'settings' | 'calendars' | 'mayEdit'>;
  wrong: Readonly<Record<string, string>>;
  put: PutSettings;
}

/** The minutes on the way to what is in a calendar, and back. */
export function Ways({ scene: { settings, calendars, mayEdit }, wrong, put }: Props) {
  const { travel } = settings;
  return (
    <View role="group" aria-label="The way there and back" className="gap-2">
      <Text kind="lead" heading={3}>
        The way there and back
      </Text>
      <Text kind="small">Minutes before and after what is in a calendar.</Text>
      {Object.entries(travel).map(([id, way]) => {
        const name = calendars.find((c) => c.id === id)?.name;
        if (!name) return null;
        const field = `travel ${id}`;
        return (
          <View key={id} role="group" aria-label={name} className="gap-1">
            <View className="flex-row items-end gap-3">
              <Text className="min-w-0 flex-1 pb-3">{name}</Text>
              {(['before', 'after'] as const).map((which) => (
                <View key={which} className="w-[76px]">
                  <SavedField
                    label={which}
                    inputMode="numeric"
                    disabled={!mayEdit}
                    value={String(way[which])}
                    onSave={(text) => {
                      const minutes = Math.round(Number(text));
                      if (minutes !== way[which])
                        put(
                          { travel: { ...travel, [id]: { ...way, [which]: minutes } } },
                          `${name}: the way changed`,
                          field,
                        );
                    }}
                  />
                </View>
              ))}
              {mayEdit ? (
                <IconButton
                  icon={X}
                  label={`No way for ${name}`}
                  onPress={() => {
                    const { [id]: _gone, ...rest } = travel;
                    put({ travel: rest }, `${name}: no way`, field);
                  }}
                />
              ) : null}
            </View>
            {wrong[field] ? (
              <Text kind="small" role="alert" className="text-poppy">
                {wrong[field]}
              </Text>
            ) : null}
          </View>
        );
      })}
      {mayEdit ? (
        <Choice
          label="Add a calendar"
          value=""
          options={[
            { value: '', words: 'choose one' },
            ...calendars.filter((c) => !travel[c.id]).map((c) => ({ value: c.id, words: c.name })),
          ]}
          onChange={(e) => {
            const id = e.currentTarget.value;
            if (id)
              put({ travel: { ...travel, [id]: { before: 15, after: 15 } } }, 'A way added', `travel ${id}`);
          }}
        />
      ) : null}
    </View>
  );
}
