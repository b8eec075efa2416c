import { useEffect, useState } from 'react';
import { View } from 'react-native';
import Svg, { Path } from 'react-native-svg';

/** A QR code of a text, dark on light whatever the theme. */
export function Qr({ text, label }: { text: string; label: string }) {
  const [data, setData] = useState<{ path: string; size: number } | null>(null);
  useEffect(() => {
    let isHere = true;
    // The package is wanted only here.
    void import('./qr-path').then(({ qrPath }) => {
      if (isHere) setData(qrPath(text));
    });
    return () => {
      isHere = false;
    };
  }, [text]);
  return (
    <View role="img" aria-label={label} className="h-[208px] w-[208px] rounded-lg bg-[#fff]">
      {data ? (
        <Svg width={208} height={208} viewBox={`0 0 ${data.size} ${data.size}`} aria-hidden>
          <Path d={data.path} fill="#000" />
        </Svg>
      ) : null}
    </View>
  );
}
