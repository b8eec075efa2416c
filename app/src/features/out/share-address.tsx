import { useState } from 'react';
import { View } from 'react-native';
import { NOT_COPIED, copyText } from '@/data/copy';
import { useUndo } from '@/data/undo';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { Notice } from '@/ui/notice';
import { Qr } from '@/ui/qr';
import { Text } from '@/ui/text';

/** A link’s addresses, just made: they are told now and never again. */
export function ShareAddress({ secret, page, onClose }: { secret: string; page: boolean; onClose(): void }) {
  const { origin, host } = globalThis.location;
  const address = `${origin}/out/${secret}.ics`;
  const [copied, setCopied] = useState('');
  const copy = async (text: string) => {
    if (await copyText(text)) setCopied(text);
    else useUndo.getState().say(NOT_COPIED);
  };
  const one = (label: string, text: string) => (
    <View className="flex-row flex-wrap items-end gap-2">
      <View className="min-w-[220px] flex-1">
        <Field label={label} value={text} readOnly onFocus={(e) => e.currentTarget.select()} />
      </View>
      <Button kind="second" aria-label={`Copy: ${label}`} onPress={() => void copy(text)}>
        {copied === text ? 'Copied' : 'Copy'}
      </Button>
    </View>
  );
  return (
    <View role="group" aria-label="The link’s address" className="gap-3 rounded-xl bg-sheet p-4">
      {one('For calendar programs', address)}
      {page ? one('The page, for anyone', `${origin}/open/${secret}`) : null}
      <Qr text={`webcal://${host}/out/${secret}.ics`} label="The address as a picture to scan" />
      <Text kind="small">Scanned with a phone, it is followed there.</Text>
      <Notice kind="note" title="Whoever has the address sees it. It is shown only now.">
        Here nobody can read it again: give the link another address where it got lost.
      </Notice>
      <View className="flex-row flex-wrap gap-2">
        <Button onPress={onClose}>Done</Button>
        <Button
          kind="second"
          onPress={() => globalThis.location.assign(`webcal://${host}/out/${secret}.ics`)}
        >
          Open it in this device’s calendar
        </Button>
      </View>
    </View>
  );
}
