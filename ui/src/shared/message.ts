// The library's messages, loaded when the first one is shown or the page has come to rest.
import 'element-plus/es/components/message/style/css'
export { ElMessage } from 'element-plus'
