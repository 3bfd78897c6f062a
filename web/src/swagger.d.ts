/** The bundle alone, past the package's entry for servers. */
declare module "swagger-ui-dist/swagger-ui-bundle" {
  export { SwaggerUIBundle as default } from "swagger-ui-dist";
}
