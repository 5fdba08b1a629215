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
import { ElButton, ElCheckbox, ElInput, ElProgress, ElRadio, ElSelectV2 } from 'element-plus'
import './styles/elements.css'
import type { App } from 'vue'

const USED = [ElButton, ElCheckbox, ElInput, ElProgress, ElRadio, ElSelectV2]

export function installElements(app: App): void {
  for (const element of USED) app.use(element)
}
