import type { ThemeConfig } from 'antd';

/** The component library in our greys: nothing of its own colours is left. */
export const theme: ThemeConfig = {
  token: {
    colorPrimary: '#1f1f1f',
    colorInfo: '#1f1f1f',
    colorLink: '#1f1f1f',
    colorSuccess: '#1f1f1f',
    colorWarning: '#a92f14',
    colorError: '#a92f14',
    colorText: '#1f1f1f',
    colorTextSecondary: '#565656',
    colorTextPlaceholder: '#6b6b6b',
    colorBgContainer: '#fdfdfd',
    colorBgElevated: '#fbfbfb',
    colorBgLayout: '#e7e7e7',
    colorBorder: '#858585',
    colorSplit: '#cfcfcf',
    borderRadius: 3,
    borderRadiusLG: 3,
    borderRadiusSM: 2,
    controlHeight: 32,
    fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
    fontSize: 15,
    boxShadow: '0 2px 10px rgb(0 0 0 / 18%)',
    boxShadowSecondary: '0 2px 10px rgb(0 0 0 / 18%)',
    motion: false,
    wireframe: false,
  },
  components: {
    Select: { optionSelectedBg: '#e2e2e2', multipleItemBg: '#e7e7e7' },
    Table: { headerBg: '#efefef', cellPaddingBlockSM: 4, cellPaddingInlineSM: 8 },
  },
};
