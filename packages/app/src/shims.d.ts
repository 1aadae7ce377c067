/** For tools that read TypeScript alone; vue-tsc sees the real types. */
declare module '*.vue' {
  import type { DefineComponent } from 'vue';
  const component: DefineComponent<object, object, unknown>;
  export default component;
}
