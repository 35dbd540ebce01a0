import { create } from 'zustand';

/** What the workshop is drawn on: light paper, or dark. */
export type Paper = 'light' | 'dark';

const KEPT = 'tinfold.paper';

/** The paper that was chosen in this browser, else the one that the device asks for. */
function first(): Paper {
  const kept = localStorage.getItem(KEPT);
  if (kept === 'light' || kept === 'dark') return kept;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

const shown = (paper: Paper): Paper => {
  document.documentElement.dataset['paper'] = paper;
  return paper;
};

export const usePaper = create<{ readonly paper: Paper; readonly turn: () => void }>()((set, get) => ({
  paper: shown(first()),
  turn() {
    const paper = shown(get().paper === 'light' ? 'dark' : 'light');
    localStorage.setItem(KEPT, paper);
    set({ paper });
  },
}));

/** Colours for what no style sheet reaches, the same as the custom properties in `look.css`. */
export interface Inks {
  readonly ink: string;
  readonly quiet: string;
  readonly copper: string;
  readonly sea: string;
  readonly line: string;
  readonly faint: string;
  readonly stripes: readonly [string, string];
  readonly ground: string;
  readonly error: string;
  readonly warning: string;
  readonly note: string;
}

export const INKS: Readonly<Record<Paper, Inks>> = {
  light: {
    ink: '#1d2b34',
    quiet: '#5a645f',
    copper: '#a54d24',
    sea: '#3f7f75',
    line: '#c9c4b4',
    faint: '#e3dfd3',
    stripes: ['#f1eee4', '#f8f6f0'],
    ground: '#fdfcf8',
    error: '#b3261e',
    warning: '#c98a12',
    note: '#7d8f96',
  },
  dark: {
    ink: '#e8e5da',
    quiet: '#a9b2ac',
    copper: '#e59064',
    sea: '#74b5aa',
    line: '#4c565c',
    faint: '#2f383e',
    stripes: ['#1e252a', '#232b31'],
    ground: '#20282e',
    error: '#f2857c',
    warning: '#e0a63a',
    note: '#8b9aa0',
  },
};
