import type { NoteFile } from '@zephyrfield/core/api/notes';
import FileText from 'lucide-react-native/icons/file-text';
import Pause from 'lucide-react-native/icons/pause';
import Play from 'lucide-react-native/icons/play';
import { createElement, useRef, useState } from 'react';
import { Pressable, View } from 'react-native';
import { fileSize } from '@/data/briefs';
import { noteFileAddress } from '@/data/notes';
import { Button } from '@/ui/button';
import { Text } from '@/ui/text';

/** What goes along with a note: pictures where they stand, a spoken note to be played, other files to be kept. */
export function NoteFiles({ files }: { files: readonly NoteFile[] }) {
  return files.map((file) => {
    const src = noteFileAddress(file.id);
    if (file.picture)
      return createElement('img', {
        key: file.id,
        src,
        alt: file.name,
        className: 'max-h-[320px] max-w-full self-start rounded-lg border border-line',
      });
    if (file.type.startsWith('audio/'))
      return <Spoken key={file.id} src={src} name={file.name} seconds={file.seconds} />;
    return (
      <Pressable
        key={file.id}
        role="link"
        href={src}
        hrefAttrs={{ download: file.name }}
        className="min-h-touch flex-row items-center gap-2 rounded-lg hover:bg-lagoon-wash"
      >
        <FileText size={20} color="var(--lagoon)" aria-hidden />
        <Text kind="strong" numberOfLines={1} className="min-w-0 flex-shrink text-lagoon underline">
          {file.name}
        </Text>
        <Text kind="small">{fileSize(file.size)}</Text>
      </Pressable>
    );
  });
}

/** A spoken note: played and stopped by one button, with its length. */
function Spoken({ src, name, seconds }: { src: string; name: string; seconds: number | null }) {
  const sound = useRef<HTMLAudioElement | null>(null);
  const [isPlaying, setPlaying] = useState(false);
  const [failed, setFailed] = useState(false);
  const words = seconds === null ? name : `Spoken, ${secondsWords(seconds)}`;
  const press = () => {
    if (isPlaying) return sound.current?.pause();
    setFailed(false);
    void sound.current?.play().catch(() => setFailed(true));
  };
  return (
    <View className="flex-row flex-wrap items-center gap-x-3">
      {createElement('audio', {
        ref: sound,
        src,
        preload: 'none',
        onPlay: () => setPlaying(true),
        onPause: () => setPlaying(false),
        onEnded: () => setPlaying(false),
      })}
      <Button
        kind="second"
        icon={isPlaying ? Pause : Play}
        aria-label={`${isPlaying ? 'Stop' : 'Play'} ${words.toLowerCase()}`}
        onPress={press}
      >
        {isPlaying ? 'Stop' : 'Play'}
      </Button>
      <Text kind="small">{failed ? 'It could not be played here.' : words}</Text>
    </View>
  );
}

/** `45 s`, `1 min 20 s` */
export const secondsWords = (seconds: number): string =>
  seconds < 60
    ? `${seconds} s`
    : `${Math.floor(seconds / 60)} min${seconds % 60 ? ` ${seconds % 60} s` : ''}`;
