"""Waters with their lines, zones and sites: the fixed ground that plans, outings and marks stand on."""
