import FilePlus from 'lucide-react-native/icons/file-plus';
import { createElement, type ComponentProps, type ReactNode } from 'react';
import { View } from 'react-native';
import { useDropzone } from 'react-dropzone';
import { Button } from './button';
import { Text } from './text';

interface Props {
  /** Names the field for screen readers */
  label?: string;
  words?: string;
  /** What the button says that opens the choice */
  button?: string;
  icon?: ComponentProps<typeof Button>['icon'];
  /** Pictures are asked for, from the camera too */
  pictures?: boolean;
  onFiles(files: File[]): void;
  children?: ReactNode;
}

/** A place to drop files on, or to choose them from. Anything may be chosen: what it is, the server says. */
export function FileDrop({
  label = 'Calendar files',
  words = 'Drop .ics files here, several at once if you like, or',
  button = 'Choose files',
  icon = FilePlus,
  pictures = false,
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
    createElement('input', {
      ...getInputProps(),
      'aria-label': label,
      // A hint for the choice; what a file is, the server says.
      ...(pictures ? { accept: 'image/*' } : {}),
    }),
    <View className="gap-2">
      <Text>{isDragActive ? 'Let go of them here.' : words}</Text>
      <Button kind="second" icon={icon} onPress={open} className="self-start">
        {button}
      </Button>
      {children}
    </View>,
  );
}
