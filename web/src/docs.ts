import SwaggerUI from 'swagger-ui-dist/swagger-ui-es-bundle'
import 'swagger-ui-dist/swagger-ui.css'

SwaggerUI({ url: '/api/openapi.json', dom_id: '#calls', defaultModelsExpandDepth: 0, docExpansion: 'none' })
