/** The API's document as a page, for whoever reads or writes it with a program of their own. */
import "swagger-ui-dist/swagger-ui.css";
import SwaggerUIBundle from "swagger-ui-dist/swagger-ui-bundle";

SwaggerUIBundle({
  url: "/api/openapi.json",
  dom_id: "#document",
  deepLinking: true,
  validatorUrl: null, // a judge on the network, which there is none of here
});
