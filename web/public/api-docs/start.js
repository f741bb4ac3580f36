// Reads the description that this server serves.
window.SwaggerUIBundle({ url: "/api/openapi.json", dom_id: "#api", deepLinking: true });
