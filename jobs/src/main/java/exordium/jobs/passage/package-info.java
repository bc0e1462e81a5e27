// SPDX-License-Identifier: Apache-2.0
/** Passages: the house read into what a plan is worked out from, plans kept, their steps carried out by the jobs there are. */
package exordium.jobs.passage;
