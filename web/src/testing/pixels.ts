/** Dots as a browser unpacks them: red, green, blue and opacity, row by row from the top. */
export interface Dots {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Dots that are all grey. */
export const greyDots = (width: number, height: number, shade: (x: number, y: number) => number): Dots => {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0, i = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, i += 4) data.set([shade(x, y), shade(x, y), shade(x, y), 255], i);
  return { width, height, data };
};

const unpacked = new WeakMap<Blob, Dots>();

/** A picture's file, with its first bytes as a file of that kind has them. */
export const pictureFile = (dots: Dots, name = 'picture.png', head = new Uint8Array(0)): File => {
  const file = new File([head], name);
  const bytes = { arrayBuffer: () => Promise.resolve(head.buffer.slice(0)) };
  Object.assign(file, bytes, { slice: () => bytes });
  unpacked.set(file, dots);
  return file;
};

/** The dots that a file was made of. */
export const dotsOf = (file: Blob): Dots | undefined => unpacked.get(file);

/** Copies dot by dot, the nearest where sizes differ; that is all the workers ask of a canvas. */
class Context {
  constructor(private readonly canvas: { readonly width: number; readonly height: number; data: Uint8ClampedArray }) {}
  drawImage(from: Dots, ...at: number[]): void {
    const [sx, sy, sw, sh, dx, dy, dw, dh] = (
      at.length === 8 ? at : [0, 0, from.width, from.height, at[0], at[1], at[2] ?? from.width, at[3] ?? from.height]
    ) as [number, number, number, number, number, number, number, number];
    for (let y = 0; y < dh; y += 1)
      for (let x = 0; x < dw; x += 1) {
        const i = 4 * ((sy + Math.floor(((y + 0.5) / dh) * sh)) * from.width + sx + Math.floor(((x + 0.5) / dw) * sw));
        this.canvas.data.set(from.data.subarray(i, i + 4), 4 * ((dy + y) * this.canvas.width + dx + x));
      }
  }
  getImageData(x: number, y: number, width: number, height: number): Dots {
    const out = new Uint8ClampedArray(4 * width * height);
    for (let row = 0; row < height; row += 1) {
      const i = 4 * ((y + row) * this.canvas.width + x);
      out.set(this.canvas.data.subarray(i, i + 4 * width), 4 * row * width);
    }
    return { width, height, data: out };
  }
  createImageData(width: number, height: number): Dots {
    return { width, height, data: new Uint8ClampedArray(4 * width * height) };
  }
  putImageData({ data }: Dots): void {
    this.canvas.data.set(data);
  }
  clearRect(): void {
    this.canvas.data.fill(0);
  }
}
class Canvas {
  data: Uint8ClampedArray;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.data = new Uint8ClampedArray(4 * width * height);
  }
  getContext(): Context {
    return new Context(this);
  }
  convertToBlob(): Promise<Blob> {
    return Promise.resolve(pictureFile(this));
  }
}

/** Lets workers unpack the files of `pictureFile`; any other is damaged. */
export const unpackPictures = (): void => {
  Object.assign(globalThis, {
    OffscreenCanvas: Canvas,
    createImageBitmap: (file: Blob) => {
      const dots = unpacked.get(file);
      return dots
        ? Promise.resolve({ ...dots, close: () => undefined })
        : Promise.reject(new Error('The source image could not be decoded.'));
    },
  });
};
