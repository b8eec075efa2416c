import { View } from 'react-native';
import { Text } from './text';

/** How far a piece of work is: a share from 0 to 1, or (null) only that it goes on. */
export function Progress({ share, words }: { share: number | null; words: string }) {
  const percent = share === null ? undefined : Math.round(share * 100);
  return (
    <View className="gap-1">
      <Text role="status">{words}</Text>
      <View
        role="progressbar"
        aria-label={words}
        aria-valuemin={0}
        aria-valuemax={100}
        {...(percent === undefined ? {} : { 'aria-valuenow': percent })}
        className="h-2 overflow-hidden rounded-full bg-line"
      >
        <View
          className={`h-2 rounded-full bg-lagoon ${share === null ? 'w-full animate-pulse' : ''}`}
          style={percent === undefined ? undefined : { width: `${percent}%` }}
        />
      </View>
    </View>
  );
}
