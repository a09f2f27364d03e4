// Stands in for Node's own modules in libraries that also run in Node; a browser never calls them.
export default {};
