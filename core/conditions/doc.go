// Package conditions is what a day asks of a practice beside its script: the first days, in which
// players get used to work and heat again, and the heat as the staff measured it.
//
// The first days are counted in days of practice: from the start of a season for all, and anew for a
// player who comes back after an absence that was long. Each step says up to which such day it holds,
// the highest contact, and how long a practice may be. A heat band holds from an index on: how often
// there is water, how long a practice may be, the highest contact, or that there is none.
//
// All of it is the club's own setting. What ships are examples: a league has its own rule, and
// licensed staff decide where health is concerned. The index is what the staff measured, in whatever
// scale its rule uses; nothing here works out heat from weather.
package conditions
