import FilePlus from 'lucide-react-native/icons/file-plus';
import { createElement, type ReactNode } from 'react';
import { View } from 'react-native';
import { useDropzone } from 'react-dropzone';
import { Button } from './button';
import { Text } from './text';

interface Props {
  /** Names the field for screen readers */
  label?: string;
  words?: string;
  onFiles(files: File[]): void;
  children?: ReactNode;
}

/** A place to drop files on, or to choose them from. Anything may be chosen: what it is, the server says. */
export function FileDrop({
  label = 'Calendar files',
  words = 'Drop .ics files here, several at once if you like, or',
  onFiles,
  children,
}: Props) {
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    onDrop: onFiles,
    noClick: true,
    noKeyboard: true,
    multiple: true,
  });
  return createElement(
    'div',
    {
      ...getRootProps(),
      className: `flex flex-col gap-3 rounded-xl border-2 border-dashed p-4 ${isDragActive ? 'border-lagoon bg-lagoon-wash' : 'border-line'}`,
    },
    createElement('input', { ...getInputProps(), 'aria-label': label }),
    <View className="gap-2">
      <Text>{isDragActive ? 'Let go of them here.' : words}</Text>
      <Button kind="second" icon={FilePlus} onPress={open} className="self-start">
        Choose files
      </Button>
      {children}
    </View>,
  );
}
