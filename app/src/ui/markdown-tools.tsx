import Bold from 'lucide-react-native/icons/bold';
import Link from 'lucide-react-native/icons/link';
import List from 'lucide-react-native/icons/list';
import ListOrdered from 'lucide-react-native/icons/list-ordered';
import { View } from 'react-native';
import { getFieldSelection, insertTextIntoField, wrapFieldSelection } from 'text-field-edit';
import { IconButton, type IconType } from './button';

/** Puts a mark before each line that is chosen, or before the line the cursor stands in. */
function markLines(field: HTMLTextAreaElement, mark: (i: number) => string): void {
  const { value, selectionStart, selectionEnd } = field;
  field.selectionStart = value.lastIndexOf('\n', selectionStart - 1) + 1;
  field.selectionEnd = selectionEnd;
  const lines = getFieldSelection(field).split('\n');
  insertTextIntoField(field, lines.map((line, i) => mark(i) + line.replace(/^(-|\d+\.)\s+/, '')).join('\n'));
}

function link(field: HTMLTextAreaElement): void {
  const words = getFieldSelection(field) || 'words';
  insertTextIntoField(field, `[${words}](https://)`);
  // Where it leads is typed next.
  field.selectionEnd = field.selectionStart - 1;
  field.selectionStart = field.selectionEnd;
}

const TOOLS: readonly { label: string; icon: IconType; run(field: HTMLTextAreaElement): void }[] = [
  { label: 'Bold', icon: Bold, run: (field) => wrapFieldSelection(field, '**') },
  { label: 'List', icon: List, run: (field) => markLines(field, () => '- ') },
  { label: 'Numbered list', icon: ListOrdered, run: (field) => markLines(field, (i) => `${i + 1}. `) },
  { label: 'Link', icon: Link, run: link },
];

/**
 * What can be done to the words of a field, as Markdown has it. Each step can be undone by the browser’s own
 * key.
 */
export function MarkdownTools({ field }: { field(): HTMLTextAreaElement | null }) {
  return (
    <View role="toolbar" aria-label="For the words" className="flex-row">
      {TOOLS.map(({ label, icon, run }) => (
        <IconButton
          key={label}
          icon={icon}
          label={label}
          // The field keeps its cursor.
          onMouseDown={(e: Event) => e.preventDefault()}
          onPress={() => {
            const target = field();
            if (!target) return;
            target.focus();
            run(target);
          }}
        />
      ))}
    </View>
  );
}
