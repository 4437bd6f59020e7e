console.log('not yet')
