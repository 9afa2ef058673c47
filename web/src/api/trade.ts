/** Written by `make schema` from the core's tables of the trade. */
export const ENTRY_KINDS = {
  "cast": {
    "words": "Cast",
    "ofCast": true,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "nothing": {
    "words": "Nothing",
    "ofCast": true,
    "outcome": true,
    "endsCast": true,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "knock": {
    "words": "Knock",
    "ofCast": true,
    "outcome": true,
    "endsCast": false,
    "felt": true,
    "fish": false,
    "endsFish": false,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "take": {
    "words": "Take",
    "ofCast": true,
    "outcome": true,
    "endsCast": true,
    "felt": true,
    "fish": true,
    "endsFish": false,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "lost": {
    "words": "Lost",
    "ofCast": true,
    "outcome": true,
    "endsCast": true,
    "felt": true,
    "fish": true,
    "endsFish": true,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "landed": {
    "words": "Landed",
    "ofCast": true,
    "outcome": true,
    "endsCast": true,
    "felt": true,
    "fish": true,
    "endsFish": true,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "follow": {
    "words": "Follow",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": true,
    "depthTold": true,
    "hasDepth": true,
    "cameNear": true,
    "ofLine": false
  },
  "refused": {
    "words": "Refused",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": true,
    "depthTold": true,
    "hasDepth": true,
    "cameNear": true,
    "ofLine": false
  },
  "seen": {
    "words": "Fish seen",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": true,
    "depthTold": true,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "told": {
    "words": "Other rod’s fish",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": true,
    "depthTold": true,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": false
  },
  "catching": {
    "words": "Others catch",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": true,
    "depthTold": false,
    "hasDepth": false,
    "cameNear": false,
    "ofLine": false
  },
  "place": {
    "words": "New place",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": true,
    "depthTold": false,
    "hasDepth": false,
    "cameNear": false,
    "ofLine": false
  },
  "touched": {
    "words": "Bottom",
    "ofCast": false,
    "outcome": false,
    "endsCast": false,
    "felt": false,
    "fish": false,
    "endsFish": false,
    "ofWater": false,
    "depthTold": false,
    "hasDepth": true,
    "cameNear": false,
    "ofLine": true
  }
} as const
export const SCHOOLS = [
  {
    "key": "best",
    "name": "Best expected",
    "believes": "The likeliest takes an hour decide, whatever school they come from.",
    "forPlan": true
  },
  {
    "key": "depth-first",
    "name": "Depth first",
    "believes": "Depth matters most: keep the fly, step through the depths.",
    "forPlan": true
  },
  {
    "key": "fly-first",
    "name": "Fly first",
    "believes": "They are there but refuse: keep the depth, change the fly, quickly.",
    "forPlan": true
  },
  {
    "key": "bottom-up",
    "name": "Bottom up",
    "believes": "Start on the bottom and come up until they take.",
    "forPlan": true
  },
  {
    "key": "top-down",
    "name": "Top down",
    "believes": "Start at the top and go down until they take.",
    "forPlan": true
  },
  {
    "key": "static",
    "name": "Static",
    "believes": "Let them come to a fly that hardly moves.",
    "forPlan": true
  },
  {
    "key": "moved",
    "name": "Moved",
    "believes": "A moving fly is found by more fish.",
    "forPlan": true
  },
  {
    "key": "stay",
    "name": "Stay with the plan",
    "believes": "The plan was made with a clear head: keep its line.",
    "forPlan": false
  }
] as const
export const USUAL = {
  "belowM": 0.15,
  "bandMass": 0.6,
  "usualCastM": 18.0,
  "usualDriftS": 180.0,
  "usualTowS": 180.0,
  "longestCountS": 60.0,
  "dialCountS": 120.0,
  "stillMps": 0.025,
  "usualFloatM": 0.019,
  "clearM": 2.0,
  "clearestM": 5.0,
  "recastS": 15.0,
  "resetS": 22.0,
  "backShare": 0.6
} as const
