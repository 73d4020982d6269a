// class-transformer keeps its registry in a file without types; the OpenAPI description reads it.
declare module 'class-transformer/cjs/storage.js' {
  export const defaultMetadataStorage: NonNullable<
    Parameters<typeof import('class-validator-jsonschema').validationMetadatasToSchemas>[0]
  >['classTransformerMetadataStorage'];
}
