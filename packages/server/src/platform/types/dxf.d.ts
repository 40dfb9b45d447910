/** What is used of the DXF reader, which ships without types. */
declare module 'dxf' {
  export class Helper {
    constructor(text: string);
    toSVG(): string;
  }
}
