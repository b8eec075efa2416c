import { SPOKEN_SECONDS } from '@zephyrfield/core/api/notes';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { secondsWords } from './note-files';

interface Props {
  onDone(sound: Blob, name: string, seconds: number): void;
  onClose(): void;
}

const FORMS = [
  ['audio/webm;codecs=opus', 'webm'],
  ['audio/mp4', 'm4a'],
  ['audio/ogg;codecs=opus', 'ogg'],
] as const;

/** Records what is spoken, up to two minutes; nothing leaves the device before it is done. */
export function Recorder({ onDone, onClose }: Props) {
  const [seconds, setSeconds] = useState(0);
  const [problem, setProblem] = useState<{ title: string; remedy: string } | null>(null);
  const recorder = useRef<MediaRecorder | null>(null);
  const done = useRef(onDone);
  useEffect(() => {
    done.current = onDone;
  });
  useEffect(() => {
    let stream: MediaStream | null = null;
    let timer: number | undefined;
    let isOver = false;
    const begin = async () => {
      const form = FORMS.find(([type]) => MediaRecorder.isTypeSupported(type));
      if (!form) throw new Error('No form that can be played back everywhere');
      stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      if (isOver) return stream.getTracks().forEach((t) => t.stop());
      const [type, ending] = form;
      const chunks: Blob[] = [];
      const began = performance.now();
      const mine = new MediaRecorder(stream, { mimeType: type });
      recorder.current = mine;
      mine.ondataavailable = (e) => chunks.push(e.data);
      mine.onstop = () => {
        stream?.getTracks().forEach((t) => t.stop());
        const took = Math.min(SPOKEN_SECONDS, Math.max(1, Math.round((performance.now() - began) / 1000)));
        // Closed on the way, nothing was meant to be sent.
        if (!isOver) done.current(new Blob(chunks, { type: type.split(';')[0]! }), `spoken.${ending}`, took);
      };
      mine.start();
      timer = window.setInterval(() => {
        const passed = Math.floor((performance.now() - began) / 1000);
        setSeconds(passed);
        if (passed >= SPOKEN_SECONDS && mine.state === 'recording') mine.stop();
      }, 250);
    };
    begin().catch(() =>
      setProblem({
        title: 'The microphone cannot be used.',
        remedy: 'Allow it for this page in your browser’s settings, or write instead.',
      }),
    );
    return () => {
      isOver = true;
      window.clearInterval(timer);
      if (recorder.current?.state === 'recording') recorder.current.stop();
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);
  return (
    <View
      role="group"
      aria-label="Spoken note"
      className="gap-2 rounded-lg border border-dashed border-lagoon p-3"
    >
      {problem ? (
        <ProblemNotice problem={problem} />
      ) : (
        <Text role="status">{`Recording: ${secondsWords(seconds)} of ${secondsWords(SPOKEN_SECONDS)}`}</Text>
      )}
      <View className="flex-row flex-wrap gap-2">
        {problem ? null : (
          <Button disabled={seconds < 1} onPress={() => recorder.current?.stop()}>
            Done
          </Button>
        )}
        <Button kind="second" onPress={onClose}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
