import ClipboardPaste from 'lucide-react-native/icons/clipboard-paste';
import { useState, type ClipboardEvent } from 'react';
import { View } from 'react-native';
import { Button } from '@/ui/button';
import { LongField } from '@/ui/field';
import { FileDrop } from '@/ui/file-drop';
import { NeedsConnection } from '@/ui/needs-connection';
import { Text } from '@/ui/text';

/** What is given: a file, or something that was pasted. */
export interface Given {
  file: Blob;
  name: string;
}

/** Giving an outline: dropped, chosen, or pasted, with the cells of a table. */
export function Give({ onGiven }: { onGiven(given: readonly Given[]): void }) {
  const [text, setText] = useState('');
  const take = (content: string, name: string) =>
    onGiven([{ file: new Blob([content], { type: 'text/plain' }), name }]);
  const paste = (e: ClipboardEvent<HTMLTextAreaElement>) => {
    const markup = e.clipboardData.getData('text/html');
    // Only a table says more as markup than as text.
    if (!/<table[\s>]/i.test(markup) || text) return;
    e.preventDefault();
    take(markup, 'Pasted table.html');
  };
  return (
    <View className="gap-4">
      <NeedsConnection />
      <FileDrop
        label="Outlines"
        words="Drop a course outline here, or several:"
        button="Choose files"
        onFiles={(files) => onGiven(files.map((file) => ({ file, name: file.name })))}
      >
        <Text kind="small">
          A document, a PDF, a spreadsheet, a table, a page or a mail, up to 10 MB. It goes to your own server
          and nowhere else.
        </Text>
      </FileDrop>
      <View className="gap-2">
        <LongField
          label="Or paste it"
          hint="A table keeps its cells."
          rows={6}
          value={text}
          maxLength={1_000_000}
          onPaste={paste}
          onChange={(e) => setText(e.currentTarget.value)}
        />
        <Button
          kind="second"
          icon={ClipboardPaste}
          className="self-start"
          disabled={!text.trim()}
          onPress={() => take(text, 'Pasted text')}
        >
          Read what is pasted
        </Button>
      </View>
    </View>
  );
}
