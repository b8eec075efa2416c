import type { Passage, Run } from '@zephyrfield/core/item/passage';
import { View } from 'react-native';
import { Text } from './text';

function Runs({ runs }: { runs: Run[] }) {
  return runs.map((run, i) => {
    const style = `${run.bold ? 'font-bold' : ''} ${run.italic ? 'italic' : ''}`;
    // Text from a feed may turn the direction of what follows it; each run is kept to itself.
    const props = { dir: 'auto' } as object;
    return run.href ? (
      <Text
        key={i}
        {...props}
        href={run.href}
        hrefAttrs={{ target: '_blank', rel: 'noopener noreferrer' }}
        role="link"
        className={`break-words text-lagoon underline ${style}`}
      >
        {run.text}
      </Text>
    ) : (
      <Text key={i} {...props} className={style}>
        {run.text}
      </Text>
    );
  });
}

/** A description with its paragraphs, lists and links. */
export function Passages({ passages }: { passages: Passage[] }) {
  return (
    <View className="gap-2">
      {passages.map((passage, i) =>
        passage.kind === 'bullet' || passage.kind === 'numbered' ? (
          <View key={i} className="flex-row gap-2 pl-1">
            <Text className="text-ink2">{passage.kind === 'numbered' ? `${passage.number}.` : '–'}</Text>
            <Text className="flex-1">
              <Runs runs={passage.runs} />
            </Text>
          </View>
        ) : (
          <Text key={i} kind={passage.kind === 'heading' ? 'strong' : 'body'}>
            <Runs runs={passage.runs} />
          </Text>
        ),
      )}
    </View>
  );
}
