import { useEffect, useState } from 'react';
import { View } from 'react-native';
import Svg, { Path } from 'react-native-svg';

/** A QR code (ISO/IEC 18004) of a text, dark on light whatever the theme, with the quiet zone readers want. */
export function Qr({ text, label }: { text: string; label: string }) {
  const [data, setData] = useState<{ path: string; size: number } | null>(null);
  useEffect(() => {
    let isHere = true;
    // The package is wanted only here.
    void import('qrcode').then(({ create }) => {
      const { modules } = create(text, { errorCorrectionLevel: 'M' });
      let path = '';
      for (let y = 0; y < modules.size; y++)
        for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) path += `M${x + 4} ${y + 4}h1v1h-1z`;
      if (isHere) setData({ path, size: modules.size + 8 });
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
