/** What no page may show: a number that is none, and what was never there. */
const WRONG = /\bNaN\b|\bundefined\b|\bInfinity\b|\[object |\bnull\b/;
const NUMBERS = [
  'd',
  'points',
  'x',
  'y',
  'x1',
  'x2',
  'y1',
  'y2',
  'cx',
  'cy',
  'r',
  'width',
  'height',
  'transform',
  'viewBox',
];

/** Texts and figures of a page that are wrong by themselves. */
export const wrongOn = (page: Element): string[] => {
  const wrong: string[] = [];
  const walker = document.createTreeWalker(page, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const text = walker.currentNode.textContent ?? '';
    if (WRONG.test(text)) wrong.push(text);
  }
  for (const element of page.querySelectorAll('svg, svg *, input'))
    for (const name of [...NUMBERS, 'value']) {
      const value = element.getAttribute(name);
      if (value !== null && WRONG.test(value)) wrong.push(`<${element.tagName} ${name}="${value.slice(0, 80)}">`);
    }
  return wrong;
};

/** Pixels to a millimetre as a drawing's scale bar says it, and as what is drawn is scaled; null without a bar. */
export const scalesOf = (svg: Element): { readonly bar: number; readonly drawn: number[] } | null => {
  for (const path of svg.querySelectorAll('path')) {
    const [, from, to] = /^M([-\d.]+) [-\d.]+V[-\d.]+H([-\d.]+)V[-\d.]+$/.exec(path.getAttribute('d') ?? '') ?? [];
    const words = path.nextElementSibling?.textContent;
    if (!from || !to || !words?.endsWith(' mm')) continue;
    const drawn = [...svg.querySelectorAll('g')]
      .map((g) =>
        /^translate\([-\d.e]+ [-\d.e]+\) scale\(([-\d.e]+) -([-\d.e]+)\)$/.exec(g.getAttribute('transform') ?? ''),
      )
      .flatMap((m) => (m ? [Number(m[1]), Number(m[2])] : []));
    return { bar: (Number(to) - Number(from)) / Number.parseFloat(words), drawn };
  }
  return null;
};
