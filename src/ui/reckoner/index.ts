export { mentionsBeside, surveyBeside } from './reckoner';
