import { type INestApplication } from "@nestjs/common";
import { ApiBody, DocumentBuilder, SwaggerModule } from "@nestjs/swagger";
import { validationMetadatasToSchemas } from "class-validator-jsonschema";

/** Says which of the contract's classes a request body is. */
export const bodySchema = (name: string): MethodDecorator =>
  ApiBody({ schema: { $ref: `#/components/schemas/${name}` } });

/** The page that describes the interface to programs, made from the controllers and the contract's own rules. */
export function describeApi(app: INestApplication): void {
  const config = new DocumentBuilder()
    .setTitle("Hard Line")
    .setDescription("Tickets, artworks, routes and renders. Errors are RFC 9457 problem details.")
    .setVersion("0.1")
    .build();
  // Made when somebody asks for it: the program need not wait for it to begin.
  const describe = () => {
    const document = SwaggerModule.createDocument(app, config);
    const schemas = validationMetadatasToSchemas({ refPointerPrefix: "#/components/schemas/" });
    const known = document.components?.schemas;
    return {
      ...document,
      components: { ...document.components, schemas: { ...known, ...schemas } as never },
    };
  };
  SwaggerModule.setup("api/docs", app, describe, { jsonDocumentUrl: "api/openapi.json" });
}
