import type { ThemeConfig } from 'antd';

/** The look of the workshop for antd's parts; the same values as the custom properties in `look.css`. */
export const theme: ThemeConfig = {
  token: {
    colorPrimary: '#a54d24',
    colorText: '#1d2b34',
    colorTextPlaceholder: '#6b746f',
    colorBorder: '#8f958f',
    colorBgContainer: '#fdfcf8',
    borderRadius: 1,
    fontFamily: "'Barlow', sans-serif",
    fontSize: 14,
    controlHeight: 32,
    wireframe: true,
  },
  components: {
    Button: { primaryShadow: 'none', defaultShadow: 'none', fontWeight: 600 },
    Segmented: { trackBg: '#cfccc0', itemSelectedBg: '#f6f4ee', trackPadding: 2 },
    Tooltip: { colorBgSpotlight: '#20303c' },
  },
};
