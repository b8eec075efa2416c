import { useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { LongField } from '@/ui/field';
import { Notice } from '@/ui/notice';
import { useLeaving } from '@/ui/saved-field';
import { Text } from '@/ui/text';

interface Props {
  /** As it stands on the server */
  note: string;
  /** Saves it; tells whether that went well */
  onSave(note: string): Promise<boolean>;
}

/**
 * A person's note on an item. It is saved when its field is left, however that comes about: by the sheet's
 * closing, or the window's going out of sight. Where somebody else has changed it while it was typed, neither
 * is lost.
 */
export function OwnNote({ note, onSave }: Props) {
  // What is typed, and what it was typed over. Once it is saved it stands here until the note itself is heard
  // of again.
  const [kept, setKept] = useState<{ text: string; over: string; isSaved: boolean } | null>(null);
  const typed = kept?.isSaved && note !== kept.over ? null : kept;
  const isClash = typed !== null && !typed.isSaved && typed.over !== note && typed.text !== note;
  const sending = useRef<string | null>(null);
  const save = async (text: string) => {
    if (sending.current === text) return;
    sending.current = text;
    const isSaved = await onSave(text);
    sending.current = null;
    // What was refused stays typed.
    if (isSaved) setKept((now) => (now?.text === text ? { text, over: note, isSaved } : now));
  };
  const leave = () => {
    if (typed && !typed.isSaved && !isClash && typed.text !== note) void save(typed.text);
  };
  useLeaving(leave);
  return (
    <View className="gap-2">
      <LongField
        label="Your note"
        rows={2}
        value={typed?.text ?? note}
        onChange={(e) =>
          setKept({
            text: e.currentTarget.value,
            over: typed ? (typed.isSaved ? typed.text : typed.over) : note,
            isSaved: false,
          })
        }
        onBlur={leave}
        maxLength={4000}
      />
      {isClash ? (
        <Notice kind="warning" title="You changed this note in another window. It says there:">
          <Text dir="auto">{note || 'nothing'}</Text>
          <View className="flex-row flex-wrap gap-2">
            <Button kind="second" onPress={() => void save(typed.text)}>
              Keep this one
            </Button>
            <Button kind="quiet" onPress={() => setKept(null)}>
              Use the other
            </Button>
          </View>
        </Notice>
      ) : null}
    </View>
  );
}
