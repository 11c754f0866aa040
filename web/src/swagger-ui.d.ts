declare module 'swagger-ui-dist/swagger-ui-es-bundle' {
  export default function SwaggerUI(options: Record<string, unknown>): void
}
