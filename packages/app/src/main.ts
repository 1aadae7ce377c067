import { createPinia } from 'pinia';
import { createApp } from 'vue';
import '@fontsource-variable/source-sans-3';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import App from './App.vue';
import { router } from './router.ts';
import 'element-plus/theme-chalk/el-message.css';
import './theme/theme.css';
import './theme/bar.css';

createApp(App).use(createPinia()).use(router).mount('#app');
