import type { ReadScreen, Source } from '@tinfold/host/reading';
import type { Structure } from '@tinfold/core/model';
import type { TrialName } from '@tinfold/core/proof';
import type { OwnFont } from '@tinfold/core/text';

/** The fonts of a project, with their files. */
export type FontWithFile = OwnFont & { readonly bytes: Uint8Array };

/** What the process is to do, with all that it needs for it. */
export type Task =
  | { readonly kind: 'reading'; readonly source: Source; readonly fonts: readonly FontWithFile[] }
  | {
      readonly kind: 'proof';
      readonly structure: Structure;
      readonly revision: number;
      readonly drawings: readonly Source[];
      readonly fonts: readonly FontWithFile[];
    };

/** How many faults a proof has found. */
export interface Counts {
  readonly from: number;
  readonly to: number;
  readonly trials: readonly TrialName[];
  readonly errors: number;
  readonly warnings: number;
  readonly notes: number;
}

/** What a process has made. */
export type Outcome =
  | { readonly kind: 'reading'; readonly screens: readonly ReadScreen[] }
  | { readonly kind: 'proof'; readonly counts: Counts }
  /** The file or the screen is at fault: trying again is no use. */
  | { readonly kind: 'refused'; readonly reason: string };

/** What a process tells. */
export type Told =
  /** How far it has come, from 0 to 1. */
  | { readonly kind: 'progress'; readonly done: number }
  | { readonly kind: 'outcome'; readonly outcome: Outcome };
