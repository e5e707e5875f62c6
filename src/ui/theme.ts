import { theme as antd, type ThemeConfig } from 'antd'
import { PALETTES, type Ground } from './ground/palette'

/** The pattern chart: cool daylight, white paper, ink; or the same in the dark. */
export function themeOn(ground: Ground): ThemeConfig {
  const colours = PALETTES[ground]
  return {
    algorithm: ground === 'dark' ? antd.darkAlgorithm : antd.defaultAlgorithm,
    token: {
      colorPrimary: colours.bedInk,
      colorInfo: colours.bedInk,
      colorError: colours.fault,
      colorLink: colours.bedInk,
      colorText: colours.ink,
      colorTextSecondary: colours.softInk,
      colorTextDescription: colours.softInk,
      colorTextPlaceholder: colours.paleInk,
      colorTextLightSolid: colours.onInk,
      colorBorder: colours.edge,
      colorBorderSecondary: colours.line,
      colorBgLayout: colours.ground,
      colorBgContainer: colours.paper,
      colorBgElevated: colours.paper,
      borderRadius: 6,
      fontFamily: "'Atkinson Hyperlegible Next', sans-serif",
      fontSize: 14,
    },
    components: {
      Segmented: { itemSelectedBg: colours.ink, itemSelectedColor: colours.onInk, trackBg: colours.graph },
      Table: { rowSelectedBg: colours.paper, rowSelectedHoverBg: colours.graph },
      Slider: {
        handleSize: 16,
        handleSizeHover: 16,
        railBg: colours.edge,
        railHoverBg: colours.edge,
        trackBg: colours.bedInk,
        trackHoverBg: colours.bedInk,
      },
      Switch: {
        trackHeight: 24,
        handleSize: 20,
        trackHeightSM: 24,
        handleSizeSM: 20,
        colorTextQuaternary: colours.edge,
        colorTextTertiary: colours.paleInk,
      },
    },
  }
}
