"""The HTTP interface: thin routers over the core and the store."""
