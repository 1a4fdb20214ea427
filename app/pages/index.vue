<template><p>Hi</p></template>
