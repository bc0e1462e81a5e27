// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

/** A step that can be taken, and how things stand after it. */
record Act(Step step, Situation after) {}
