// The Element Plus controls Velmot uses, with their styles and nothing else of the library.
import 'element-plus/es/components/base/style/css'
import 'element-plus/es/components/button/style/css'
import 'element-plus/es/components/checkbox/style/css'
import 'element-plus/es/components/input/style/css'
import 'element-plus/es/components/message/style/css'
import 'element-plus/es/components/progress/style/css'
import 'element-plus/es/components/radio-group/style/css'
import 'element-plus/es/components/radio-button/style/css'
import 'element-plus/es/components/select-v2/style/css'
import { ElButton } from 'element-plus/es/components/button/index.mjs'
import { ElCheckbox } from 'element-plus/es/components/checkbox/index.mjs'
import { ElInput } from 'element-plus/es/components/input/index.mjs'
import { ElProgress } from 'element-plus/es/components/progress/index.mjs'
import { ElRadio } from 'element-plus/es/components/radio/index.mjs'
import { ElSelectV2 } from 'element-plus/es/components/select-v2/index.mjs'
import '../styles/elements.css'
import type { App } from 'vue'

const USED = [ElButton, ElCheckbox, ElInput, ElProgress, ElRadio, ElSelectV2]

export function installElements(app: App): void {
  for (const element of USED) app.use(element)
}
