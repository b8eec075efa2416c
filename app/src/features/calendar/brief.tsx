import { late } from '@/data/late';
import type { BriefFile } from '@zephyrfield/core/api/own';
import type { ItemView } from '@zephyrfield/core/api/schemas';
import FileText from 'lucide-react-native/icons/file-text';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { BRIEF_FIELDS, NO_BRIEF, fileAddress, fileSize } from '@/data/briefs';
import { Button } from '@/ui/button';
import { lazyComponent } from '@/ui/lazy';
import { Picture } from './picture';
import { Text } from '@/ui/text';
import type * as briefFormModule from './brief-form';

declare module '@/data/late' {
  interface LateParts {
    BriefForm: typeof briefFormModule.BriefForm;
  }
}

const Written = lazyComponent(() => import('@/ui/written').then((m) => m.Written));
// The form and what it needs come when somebody writes.
const BriefForm = lazyComponent(late('BriefForm'));

/**
 * The brief: what families ask, in the same order everywhere, empty parts left out. A date’s own stands over
 * the shared one.
 */
export function Brief({ item, learnerId, mayEdit }: { item: ItemView; learnerId: string; mayEdit: boolean }) {
  const { shared, ofDate, files } = item.brief;
  const [editing, setEditing] = useState(false);
  const shown = BRIEF_FIELDS.map(([name, title]) => ({
    name,
    title,
    text: (ofDate?.[name].trim() ? ofDate : (shared ?? NO_BRIEF))[name],
  })).filter((p) => p.text.trim());
  const isEmpty = !shown.length && !files.length;
  if (isEmpty && !mayEdit) return null;
  const passages = (text: string) => <Written text={text} />;
  if (editing)
    return (
      <BriefForm item={item} learnerId={learnerId} passages={passages} onDone={() => setEditing(false)} />
    );
  return (
    <View role="group" aria-label="The brief" className="gap-2">
      {isEmpty ? null : (
        <Text kind="lead" heading={3}>
          The brief
        </Text>
      )}
      {shown.map(({ name, title, text }) => (
        <View key={name} className="gap-1">
          <Text kind="label">{title}</Text>
          {passages(text)}
        </View>
      ))}
      {files.map((file) =>
        file.picture ? <Picture key={file.id} file={file} /> : <FileRow key={file.id} file={file} />,
      )}
      {mayEdit ? (
        <Button kind="quiet" onPress={() => setEditing(true)} className="-ml-4 self-start">
          {isEmpty ? 'Write a brief' : 'Change the brief'}
        </Button>
      ) : null}
    </View>
  );
}

function FileRow({ file: { id, name, size } }: { file: BriefFile }) {
  return (
    <Pressable
      role="link"
      href={fileAddress(id)}
      hrefAttrs={{ download: name }}
      className="min-h-touch flex-row items-center gap-3 rounded-lg px-2 hover:bg-lagoon-wash"
    >
      <FileText size={20} color="var(--lagoon)" aria-hidden />
      <View className="min-w-0 flex-1">
        <Text kind="strong" numberOfLines={1} className="text-lagoon">
          {name}
        </Text>
        <Text kind="small">{fileSize(size)}, to keep on this device</Text>
      </View>
    </Pressable>
  );
}
