/** The part of the PDF library that is used; its module is large, so the caller brings it. */
export interface PdfLibrary {
  getDocument(source: {
    readonly data: Uint8Array;
    readonly isEvalSupported: false;
    readonly disableFontFace: true;
    readonly useSystemFonts: false;
    readonly isOffscreenCanvasSupported: false;
    readonly fontExtraProperties: true;
    readonly verbosity: 0;
    readonly maxImageSize: number;
  }): { readonly promise: Promise<PdfDocument>; destroy(): Promise<void> };
  readonly OPS: Readonly<Record<string, number>>;
}

export interface PdfDocument {
  readonly numPages: number;
  getPage(number: number): Promise<PdfPage>;
}

export interface PdfPage {
  getViewport(of: { scale: number }): {
    readonly width: number;
    readonly height: number;
    readonly transform: readonly number[];
  };
  getOperatorList(): Promise<{ readonly fnArray: readonly number[]; readonly argsArray: readonly unknown[] }>;
  readonly commonObjs: PdfObjects;
  readonly objs: PdfObjects;
}

/** Fonts and images by their names; one that is not there yet is handed over when it is. */
export interface PdfObjects {
  get(name: string, then?: (object: unknown) => void): unknown;
  has(name: string): boolean;
}

/** A font as far as it is used; its glyphs' outlines, path data in em upwards, are objects named after it. */
export interface PdfFont {
  readonly name?: string;
  readonly bold?: boolean;
  readonly black?: boolean;
  readonly italic?: boolean;
  readonly vertical?: boolean;
  readonly loadedName?: string;
  readonly fontMatrix?: readonly number[];
}

/** A glyph that is shown: widths are thousandths of the type size. */
export interface PdfGlyph {
  readonly unicode: string;
  /** The character by which its outline is named. */
  readonly fontChar?: string;
  readonly width: number;
  readonly isSpace: boolean;
}

/** An image's pixels: 1 bit grey, RGB or RGBA. */
export interface PdfImage {
  readonly width: number;
  readonly height: number;
  readonly kind: number;
  readonly data: Uint8Array | Uint8ClampedArray;
}
