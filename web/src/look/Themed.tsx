import { ConfigProvider } from 'antd';
import type { ReactNode } from 'react';
import { usePaper } from './paper';
import { themeOn } from './theme';

/** All that is in it, in the look of the paper that was chosen. */
export function Themed({ children }: { readonly children: ReactNode }) {
  const paper = usePaper((s) => s.paper);
  return <ConfigProvider theme={themeOn(paper)}>{children}</ConfigProvider>;
}
