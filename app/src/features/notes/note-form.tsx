import { NOTE_FILES } from '@zephyrfield/core/api/notes';
import { plural } from '@zephyrfield/core/words/text';
import Mic from 'lucide-react-native/icons/mic';
import Paperclip from 'lucide-react-native/icons/paperclip';
import X from 'lucide-react-native/icons/x';
import { createElement, useRef, useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useNoteDraft } from '@/data/note-draft';
import { sendNoteFile, type NoteInput } from '@/data/notes';
import { Button, IconButton } from '@/ui/button';
import { LongField } from '@/ui/field';
import { MarkdownTools } from '@/ui/markdown-tools';
import { ProblemNotice } from '@/ui/notice';
import { Progress } from '@/ui/progress';
import { Text } from '@/ui/text';
import { secondsWords } from './note-files';
import { Recorder } from './recorder';

interface Problem {
  title: string;
  remedy?: string | undefined;
}
interface Props {
  /** What is answered, or what a new note is about: what is written is kept under it until it is sent */
  draft: string;
  label: string;
  /** What the button says that sends it */
  words: string;
  hint: string;
  busy: boolean;
  problem: Problem | null;
  /** Rejects where it could not be sent; what was written is kept then */
  onSend(input: NoteInput): Promise<unknown>;
}

/** What is written, with files, pictures and a spoken word along with it. */
export function NoteForm({ draft, label, words, hint, busy, problem, onSend }: Props) {
  const { text, files, setText, setFiles, done } = useNoteDraft(draft);
  const [sent, setSent] = useState<number | null>(null);
  const [wrong, setWrong] = useState<Problem | null>(null);
  const [isSpeaking, setSpeaking] = useState(false);
  const area = useRef<HTMLTextAreaElement | null>(null);
  const chooser = useRef<HTMLInputElement | null>(null);
  const isSpoken = files.some((f) => f.seconds !== null);
  const take = async (blob: Blob, name: string, seconds: number | null) => {
    setWrong(null);
    setSent(0);
    try {
      const file = await sendNoteFile(blob, name, seconds, setSent);
      setFiles((all) => [...all, file]);
    } catch (error) {
      setWrong(problemOf(error));
    } finally {
      setSent(null);
    }
  };
  const send = () => {
    if (!text.trim() && !files.length) return setWrong({ title: 'Write something first.' });
    setWrong(null);
    // Where something is wrong it is said below; what was written stays.
    void onSend({ text: text.trim(), files }).then(done, () => {});
  };
  return (
    <View role="group" aria-label={label} className="gap-2">
      <MarkdownTools field={() => area.current} />
      <LongField
        label={label}
        // The tools work on it once it was written in.
        onFocus={(e) => (area.current = e.currentTarget)}
        hint={isSpoken ? `${hint}. Write in a line what you say, for who cannot listen.` : hint}
        rows={4}
        value={text}
        maxLength={8_000}
        onChange={(e) => setText(e.currentTarget.value)}
      />
      {files.map((file) => (
        <View key={file.id} className="flex-row items-center gap-2">
          <Text className="min-w-0 flex-shrink" numberOfLines={1}>
            {file.seconds === null ? file.name : `Spoken, ${secondsWords(file.seconds)}`}
          </Text>
          <IconButton
            icon={X}
            label={`Leave out ${file.name}`}
            onPress={() => setFiles((all) => all.filter((f) => f.id !== file.id))}
          />
        </View>
      ))}
      {sent === null ? null : <Progress share={sent} words="Sending the file" />}
      {isSpeaking ? (
        <Recorder
          onDone={(blob, name, seconds) => {
            setSpeaking(false);
            void take(blob, name, seconds);
          }}
          onClose={() => setSpeaking(false)}
        />
      ) : null}
      <ProblemNotice problem={wrong ?? problem} />
      {createElement('input', {
        ref: chooser,
        type: 'file',
        multiple: true,
        hidden: true,
        'aria-label': 'Files to go along',
        onChange: (e: { currentTarget: HTMLInputElement }) => {
          const chosen = [...(e.currentTarget.files ?? [])];
          const room = NOTE_FILES - files.length;
          e.currentTarget.value = '';
          void (async () => {
            for (const file of chosen.slice(0, room)) await take(file, file.name, null);
            if (chosen.length > room)
              setWrong({
                title: `${plural(chosen.length - room, 'file was', 'files were')} left out.`,
                remedy: `At most ${NOTE_FILES} go along with a note. Send the others with another one.`,
              });
          })();
        },
      })}
      <View className="flex-row flex-wrap items-center gap-2">
        <Button busy={busy} disabled={sent !== null} onPress={send}>
          {words}
        </Button>
        <Button
          kind="second"
          icon={Paperclip}
          disabled={files.length >= NOTE_FILES}
          onPress={() => chooser.current?.click()}
        >
          Add files
        </Button>
        {isSpoken || isSpeaking ? null : (
          <Button kind="second" icon={Mic} onPress={() => setSpeaking(true)}>
            Speak
          </Button>
        )}
      </View>
    </View>
  );
}
