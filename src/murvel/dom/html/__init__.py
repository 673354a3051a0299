"""HTML's own rules about elements, which styles, tree and stage all rest on."""
