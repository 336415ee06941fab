/** What eslint's program knows of a component; vue-tsc reads the component itself. */
declare module "*.vue" {
  import type { DefineComponent } from "vue";
  const component: DefineComponent;
  export default component;
}
