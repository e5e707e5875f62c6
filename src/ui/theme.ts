import type { ThemeConfig } from 'antd'

/** The pattern chart: cool daylight, white paper, ink. The same colours stand in theme.css for everything else. */
export const theme: ThemeConfig = {
  token: {
    colorPrimary: '#12647a',
    colorInfo: '#12647a',
    colorError: '#b83a12',
    colorText: '#161d29',
    colorTextSecondary: '#46535f',
    colorBorder: '#b9c7cd',
    colorBgLayout: '#e8eef0',
    borderRadius: 6,
    fontFamily: "'Atkinson Hyperlegible Next', sans-serif",
    fontSize: 14,
  },
  components: { Segmented: { itemSelectedBg: '#161d29', itemSelectedColor: '#ffffff', trackBg: '#dfe8eb' } },
}
