import { plain, readSvg } from '../test-plain';
import { readArt } from './read-art';

const drawing = (inside: string): string => `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">${inside}</svg>`; // prettier-ignore
/** What a file of art fills and what it draws, in its order. */
const read = (inside: string) => {
  const made = readArt('a.svg', drawing(inside), plain);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const outline = (inside: string) => {
  const made = readSvg(drawing(inside));
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const paints = (inside: string): string[] => read(inside).shapes.flatMap((s) => s.contours.map((c) => `${s.fill === null ? 'line' : 'area'}${c.closed ? '' : ', open'}`)); // prettier-ignore
const FRAME = 'x="5" y="5" width="60" height="40"';

describe('art is burned as its file draws it', () => {
  // SVG 2, 13.2: fill is black and stroke none until something is said; both are inherited.
  it.each([
    ['nothing said', `<rect ${FRAME}/>`, ['area']],
    ['a hairline frame', `<rect ${FRAME} fill="none" stroke="#000" stroke-width="0.1"/>`, ['line']],
    ['both', `<rect ${FRAME} fill="red" stroke="black"/>`, ['area']],
    ['a style of its own', `<rect ${FRAME} style="stroke:black;fill:none"/>`, ['line']],
    ['a group’s', `<g fill="none" stroke="black"><rect ${FRAME}/></g>`, ['line']],
    ['a group’s, said anew', `<g fill="none" stroke="black"><g fill="blue"><rect ${FRAME}/></g></g>`, ['area']],
    ['a class', `<style>.st0{fill:none;stroke:#000}</style><rect class="st0" ${FRAME}/>`, ['line']],
    ['a class over an attribute', `<style>.st0{fill:none;stroke:#000}</style><rect class="st0" fill="red" ${FRAME}/>`, ['line']],
    ['its style over a class', `<style>.st0{fill:none;stroke:#000}</style><rect class="st0" style="fill:red" ${FRAME}/>`, ['area']],
    ['an id over a class', `<style>#a{fill:red} .st0{fill:none;stroke:#000}</style><rect id="a" class="st0" ${FRAME}/>`, ['area']],
    ['two selectors in CDATA', '<style><![CDATA[ /* from a drawing */ path, rect { fill : none; stroke : black } ]]></style>' + `<rect ${FRAME}/>`, ['line']],
    ['a fill that is seen through', `<rect ${FRAME} fill="transparent" stroke="black"/>`, ['line']],
    ['an open path that is filled', '<path d="M5 5H60V40"/>', ['area']],
    ['an open line', '<path fill="none" stroke="black" d="M5 5H60V40"/>', ['line, open']],
    ['lines and areas', `<rect ${FRAME} fill="none" stroke="black"/><circle cx="30" cy="20" r="9"/>`, ['line', 'area']],
    // Two halves of a frame, one of them filled, are not joined to one shape.
    ['lines that meet an area', '<path fill="none" stroke="black" d="M5 5H60V40"/><path d="M60 40H5V5"/>', ['line, open', 'area']],
  ] as const)('%s', (_, inside, wanted) => {
    expect(paints(inside)).toEqual(wanted);
  }); // prettier-ignore

  it('what is not seen in it is left out, and said', () => {
    const seen = `<rect ${FRAME} fill="none" stroke="black"/>`;
    const hidden = [
      '<circle cx="80" cy="30" r="15" display="none"/>',
      '<g style="display:none"><circle cx="80" cy="30" r="15" display="inline"/></g>',
      '<circle cx="80" cy="30" r="15" visibility="hidden"/>',
      '<circle cx="80" cy="30" r="15" fill="none"/>',
      '<style>.off{display:none}</style><circle class="off" cx="80" cy="30" r="15"/>',
    ];
    for (const shape of hidden) {
      const { shapes, width, notes } = read(seen + shape);
      expect([shapes.length, width, notes]).toEqual([1, 60, ['A shape is not seen in the file (hidden, or without fill and line) and left out.']]); // prettier-ignore
    }
    // A blank's outline may be drawn in any paint, or none.
    expect(outline('<rect width="50" height="40" fill="none"/>').width).toBe(50);
    // A hidden part may be shown again; one that is not displayed may not.
    expect(paints('<g visibility="hidden"><circle cx="80" cy="30" r="15" visibility="visible"/></g>')).toEqual([
      'area',
    ]);
    // Nor is it a blank's outline, however large.
    expect(outline('<rect width="99" height="59" display="none"/><circle cx="40" cy="30" r="20"/>').width).toBeCloseTo(40, 2); // prettier-ignore
  });

  it('a DXF draws lines only: closed ones are not filled until somebody says so', () => {
    const square = '0\nLWPOLYLINE\n8\n0\n90\n4\n70\n1\n10\n0\n20\n0\n10\n20\n20\n0\n10\n20\n20\n20\n10\n0\n20\n20\n';
    const made = readArt('a.dxf', `0\nSECTION\n2\nENTITIES\n${square}0\nENDSEC\n0\nEOF\n`, plain);
    if (!made.ok) throw new Error(made.problem.message);
    expect(made.value.shapes.map((s) => [s.contours[0]!.closed, s.fill, s.stroke])).toEqual([[true, null, expect.any(String)]]); // prettier-ignore
  });
});
