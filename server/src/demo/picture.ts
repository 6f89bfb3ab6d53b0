import sharp from 'sharp';

const WIDTH = 1200;
const HEIGHT = 560;

const wave = (y: number, swing: number, length: number): string =>
  `M0 ${y}${Array.from({ length: WIDTH / 20 + 1 }, (_, i) => `L${20 * i} ${(y + swing * Math.sin((20 * i) / length)).toFixed(1)}`).join('')}L${WIDTH} ${HEIGHT}L0 ${HEIGHT}Z`;

/** A harbour light at dusk, in shades: the demo shop's invented picture for the trophies. */
export const harbourLight = (): Promise<Buffer> =>
  sharp(
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}">
<defs>
<linearGradient id="sky" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#101010"/><stop offset=".75" stop-color="#8a8a8a"/><stop offset="1" stop-color="#b8b8b8"/></linearGradient>
<radialGradient id="lamp"><stop offset="0" stop-color="#fff"/><stop offset=".25" stop-color="#eee" stop-opacity=".7"/><stop offset="1" stop-color="#ddd" stop-opacity="0"/></radialGradient>
<linearGradient id="beam" x1="1" y1="0" x2="0" y2="0"><stop offset="0" stop-color="#fff" stop-opacity=".85"/><stop offset="1" stop-color="#fff" stop-opacity="0"/></linearGradient>
</defs>
<rect width="${WIDTH}" height="${HEIGHT}" fill="url(#sky)"/>
<path d="M845 150L120 60V270Z" fill="url(#beam)"/>
<circle cx="845" cy="150" r="190" fill="url(#lamp)"/>
<path d="M560 420C650 380 760 372 860 372C980 372 1080 392 1200 430V560H560Z" fill="#1c1c1c"/>
<path d="M815 372L828 190H862L875 372Z" fill="#f2f2f2"/><path d="M821 300L824 250H866L869 300Z" fill="#333"/>
<path d="M822 190V172H868V190Z" fill="#222"/><path d="M830 172V130H860V172Z" fill="#fff"/><path d="M824 130L845 104L866 130Z" fill="#222"/>
<path d="${wave(430, 7, 46)}" fill="#6e6e6e"/><path d="${wave(466, 9, 62)}" fill="#4c4c4c"/><path d="${wave(508, 11, 83)}" fill="#2a2a2a"/>
<path d="M170 452L330 452L312 472H190Z" fill="#f4f4f4"/><path d="M248 448V352L300 440Z" fill="#dcdcdc"/>
</svg>`),
  )
    .flatten({ background: '#fff' })
    .greyscale()
    .png()
    .toBuffer();
