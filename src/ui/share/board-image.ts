/** Properties that make up how a board looks, taken from the page's style into the picture. */
const DRAWN = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-linejoin',
  'stroke-linecap',
  'stroke-dasharray',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'dominant-baseline',
];
const NAMESPACE = 'http://www.w3.org/2000/svg';

/** What is drawn of a board on the page, one layer over the other, without what it needs to be clicked. */
function layersOf(board: Element): { viewBox: string; layers: Element[] } {
  const svgs = [...board.querySelectorAll('svg')];
  const layers = svgs.map((svg) => {
    const layer = document.createElementNS(NAMESPACE, 'g');
    for (const child of svg.children) layer.append(drawn(child));
    for (const hit of layer.querySelectorAll('.hit')) hit.remove();
    for (const element of layer.querySelectorAll('*'))
      for (const { name } of [...element.attributes])
        if (name === 'class' || name === 'style' || name.startsWith('data-'))
          element.removeAttribute(name);
    return layer;
  });
  return { viewBox: svgs[0]!.getAttribute('viewBox')!, layers };
}

/** A copy of an element that carries its style with it. */
function drawn(element: Element): Element {
  const copy = element.cloneNode(false) as Element;
  const style = getComputedStyle(element);
  for (const property of DRAWN) {
    const value = style.getPropertyValue(property);
    if (value !== '') copy.setAttribute(property, value);
  }
  if (element.children.length === 0) copy.textContent = element.textContent;
  for (const child of element.children) copy.append(drawn(child));
  return copy;
}

const FONT = 'Bektra Pieces';

/** The font of the pieces as a style of the picture's own, so that it looks the same without the page. */
async function fontStyle(): Promise<string> {
  for (const sheet of document.styleSheets)
    for (const rule of sheet.cssRules) {
      if (!(rule instanceof CSSFontFaceRule) || !rule.style.fontFamily.includes(FONT)) continue;
      const source = /url\("?([^")]+)"?\)/.exec(rule.style.getPropertyValue('src'))?.[1];
      if (!source) continue;
      const answer = await fetch(new URL(source, sheet.href ?? location.href));
      const data = await dataUrl(await answer.blob());
      return `@font-face{font-family:'${FONT}';src:url(${data})}`;
    }
  return '';
}

const dataUrl = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(reader.error!);
    reader.readAsDataURL(blob);
  });

/** Seconds that each position of a run is shown, and the last one. */
const FRAME_SECONDS = 1.2;
const LAST_SECONDS = 3;

/**
 * Boards of the page as one SVG: a picture of one, a run of several that begins anew when it is over.
 * @param size width in pixels
 */
export async function boardsAsSvg(boards: readonly Element[], size: number): Promise<string> {
  const drawings = boards.map(layersOf);
  const { viewBox } = drawings[0]!;
  const [, , width, height] = viewBox.split(' ').map(Number);
  const svg = document.createElementNS(NAMESPACE, 'svg');
  svg.setAttribute('viewBox', viewBox);
  svg.setAttribute('width', String(size));
  svg.setAttribute('height', String(Math.round((size * height!) / width!)));
  const style = document.createElementNS(NAMESPACE, 'style');
  style.textContent = boards[0]!.querySelector('text') ? await fontStyle() : '';
  svg.append(style);
  const total = FRAME_SECONDS * (drawings.length - 1) + LAST_SECONDS;
  drawings.forEach(({ layers }, index) => {
    const frame = document.createElementNS(NAMESPACE, 'g');
    frame.append(...layers);
    if (drawings.length > 1) {
      const from = (FRAME_SECONDS * index) / total;
      const to = index === drawings.length - 1 ? 1 : (FRAME_SECONDS * (index + 1)) / total;
      const shown = document.createElementNS(NAMESPACE, 'animate');
      const times = [0, from, to, 1].map((time) => time.toFixed(4));
      for (const [name, value] of Object.entries({
        attributeName: 'visibility',
        values: 'hidden;visible;hidden;hidden',
        keyTimes: times.join(';'),
        calcMode: 'discrete',
        dur: `${total.toFixed(2)}s`,
        repeatCount: 'indefinite',
      }))
        shown.setAttribute(name, value);
      frame.append(shown);
      if (index > 0) frame.setAttribute('visibility', 'hidden');
    }
    svg.append(frame);
  });
  return new XMLSerializer().serializeToString(svg);
}

/** An SVG as a PNG of its own size. */
export async function svgAsPng(svg: string): Promise<Blob> {
  const image = new Image();
  image.src = await dataUrl(new Blob([svg], { type: 'image/svg+xml' }));
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = image.naturalWidth;
  canvas.height = image.naturalHeight;
  canvas.getContext('2d')!.drawImage(image, 0, 0);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/png'),
  );
}

/** Hands a file to the person who asked for it. */
export function download(name: string, blob: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
