/** The used part of the DXF reader, which ships without types. */
declare module 'dxf' {
  export class Helper {
    constructor(text: string);
    /** Entities as read; changes made here show in the other answers. */
    readonly parsed: { blocks: { x?: number; y?: number; entities: Record<string, unknown>[] }[] };
    /** Entities of the drawing itself, each with the block inserts that contain it. */
    readonly denormalised: Record<string, unknown>[];
    toSVG(): string;
  }
}
