'use client'

import {
  CaretRightFilled as CaretRightFilledDrawn,
  CloseOutlined as CloseOutlinedDrawn,
  CompressOutlined as CompressOutlinedDrawn,
  DeleteOutlined as DeleteOutlinedDrawn,
  DownOutlined as DownOutlinedDrawn,
  ExpandOutlined as ExpandOutlinedDrawn,
  MinusOutlined as MinusOutlinedDrawn,
  MoreOutlined as MoreOutlinedDrawn,
  PauseOutlined as PauseOutlinedDrawn,
  PlusOutlined as PlusOutlinedDrawn,
  QuestionCircleOutlined as QuestionCircleOutlinedDrawn,
  RedoOutlined as RedoOutlinedDrawn,
  SearchOutlined as SearchOutlinedDrawn,
  SettingOutlined as SettingOutlinedDrawn,
  UndoOutlined as UndoOutlinedDrawn,
  UnorderedListOutlined as UnorderedListOutlinedDrawn,
  UpOutlined as UpOutlinedDrawn,
  WarningOutlined as WarningOutlinedDrawn,
} from '@ant-design/icons'
import type { AntdIconProps } from '@ant-design/icons/lib/components/AntdIcon'
import type { ComponentType } from 'react'

/**
 * Icons stand beside words, or on a control with a name of its own: they say nothing themselves. As they come, a screen reader
 * would read out what their file is called.
 */
const quiet = (Drawn: ComponentType<AntdIconProps>) =>
  function Icon(props: AntdIconProps) {
    return <Drawn aria-hidden {...props} />
  }

export const CaretRightFilled = /* @__PURE__ */ quiet(CaretRightFilledDrawn)
export const CloseOutlined = /* @__PURE__ */ quiet(CloseOutlinedDrawn)
export const CompressOutlined = /* @__PURE__ */ quiet(CompressOutlinedDrawn)
export const DeleteOutlined = /* @__PURE__ */ quiet(DeleteOutlinedDrawn)
export const DownOutlined = /* @__PURE__ */ quiet(DownOutlinedDrawn)
export const ExpandOutlined = /* @__PURE__ */ quiet(ExpandOutlinedDrawn)
export const MinusOutlined = /* @__PURE__ */ quiet(MinusOutlinedDrawn)
export const MoreOutlined = /* @__PURE__ */ quiet(MoreOutlinedDrawn)
export const PauseOutlined = /* @__PURE__ */ quiet(PauseOutlinedDrawn)
export const PlusOutlined = /* @__PURE__ */ quiet(PlusOutlinedDrawn)
export const QuestionCircleOutlined = /* @__PURE__ */ quiet(QuestionCircleOutlinedDrawn)
export const RedoOutlined = /* @__PURE__ */ quiet(RedoOutlinedDrawn)
export const SearchOutlined = /* @__PURE__ */ quiet(SearchOutlinedDrawn)
export const SettingOutlined = /* @__PURE__ */ quiet(SettingOutlinedDrawn)
export const UndoOutlined = /* @__PURE__ */ quiet(UndoOutlinedDrawn)
export const UnorderedListOutlined = /* @__PURE__ */ quiet(UnorderedListOutlinedDrawn)
export const UpOutlined = /* @__PURE__ */ quiet(UpOutlinedDrawn)
export const WarningOutlined = /* @__PURE__ */ quiet(WarningOutlinedDrawn)
