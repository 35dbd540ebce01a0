import { theme as antd, type ThemeConfig } from 'antd';
import { INKS, type Paper } from './paper';

/** What antd's parts need besides, on each paper. */
const OWN = {
  light: { placeholder: '#6b746f', border: '#8f958f', track: '#cfccc0', chosen: '#f6f4ee', tip: '#20303c' },
  dark: { placeholder: '#9aa39d', border: '#5c676d', track: '#2c353b', chosen: '#3b464d', tip: '#0d1215' },
} as const;

/** The look of the workshop for antd's parts; the same values as the custom properties in `look.css`. */
export function themeOn(paper: Paper): ThemeConfig {
  const { ink, copper, ground } = INKS[paper];
  const { placeholder, border, track, chosen, tip } = OWN[paper];
  return {
    algorithm: paper === 'dark' ? antd.darkAlgorithm : antd.defaultAlgorithm,
    token: {
      colorPrimary: copper,
      colorText: ink,
      colorTextPlaceholder: placeholder,
      colorBorder: border,
      colorBgContainer: ground,
      colorBgElevated: ground,
      ...(paper === 'dark' && { colorTextLightSolid: '#1a1310' }),
      // What antd makes of it is paler, and white words on that have too little contrast.
      ...(paper === 'light' && { colorPrimaryHover: '#8a3f1d' }),
      borderRadius: 1,
      fontFamily: "'Barlow', sans-serif",
      fontSize: 14,
      controlHeight: 32,
      wireframe: true,
      // An instrument answers at once; and the focus goes back to where it was before the next key.
      motion: false,
    },
    components: {
      Button: { primaryShadow: 'none', defaultShadow: 'none', fontWeight: 600 },
      Segmented: { trackBg: track, itemSelectedBg: chosen, trackPadding: 2 },
      Tooltip: { colorBgSpotlight: tip, colorTextLightSolid: '#f3f0e6' },
    },
  };
}
