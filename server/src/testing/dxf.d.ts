declare module 'dxf' {
  /** A DXF, as another reader draws it. */
  export class Helper {
    constructor(text: string);
    toSVG(): string;
  }
}
