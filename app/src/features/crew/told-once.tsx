import { spacedCode, type InviteWay } from '@zephyrfield/core/item/crew';
import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { Modal, View } from 'react-native';
import { NOT_COPIED, copyText } from '@/data/copy';
import { useUndo } from '@/data/undo';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { useEscape } from '@/ui/use-escape';

/** A code or a link that was just made: it is told now and never again. */
export function ToldOnce({
  way,
  secret,
  days,
  onClose,
}: {
  way: InviteWay;
  secret: string;
  days: number;
  onClose(): void;
}) {
  const [large, setLarge] = useState(false);
  const [copied, setCopied] = useState(false);
  const isCode = way === 'code';
  const words = isCode ? spacedCode(secret) : `${globalThis.location.origin}/join#${secret}`;
  const copy = async () => {
    if (await copyText(words)) setCopied(true);
    else useUndo.getState().say(NOT_COPIED);
  };
  return (
    <View className="gap-3 rounded-xl bg-sheet p-4">
      {isCode ? (
        <>
          <Text>
            Read this code out, or show it. They open Zephyrfield, press “I have a code”, and type it.
          </Text>
          <Text kind="display" className="tracking-[0.12em]" selectable>
            {words}
          </Text>
        </>
      ) : (
        <Field label="Send them this link" value={words} readOnly onFocus={(e) => e.currentTarget.select()} />
      )}
      <Notice kind="note" title={`Good for ${plural(days, 'day')}. It is shown only now.`}>
        You can take it back at any time, and make another one.
      </Notice>
      <View className="flex-row flex-wrap gap-2">
        <Button onPress={onClose}>Done</Button>
        <Button kind="second" onPress={() => void copy()}>
          {copied ? 'Copied' : 'Copy'}
        </Button>
        {isCode ? (
          <Button kind="second" onPress={() => setLarge(true)}>
            Show it large
          </Button>
        ) : null}
      </View>
      {large ? <Large words={words} onClose={() => setLarge(false)} /> : null}
    </View>
  );
}

/** The code as large as the screen, for a room. */
function Large({ words, onClose }: { words: string; onClose(): void }) {
  useEscape(onClose);
  const [first, second] = words.split(' ');
  return (
    <Modal transparent={false} onRequestClose={onClose}>
      <View
        role="dialog"
        aria-label="The code, large"
        className="flex-1 items-center justify-center gap-6 bg-paper p-4"
      >
        <Text className="text-center">Open Zephyrfield, press “I have a code”, and type</Text>
        <View className="flex-row flex-wrap justify-center gap-x-[6vw]">
          {[first, second].map((half) => (
            <Text
              key={half}
              kind="display"
              className="!text-[min(20vw,9rem)] !leading-tight tracking-[0.1em]"
            >
              {half}
            </Text>
          ))}
        </View>
        <Button kind="second" onPress={onClose}>
          Close
        </Button>
      </View>
    </Modal>
  );
}
