// SPDX-License-Identifier: Apache-2.0
/** What is wanted of a first start, in a user's words: read from YAML, sets merged in, secrets kept only as what is made of them. */
package exordium.core.firststart.intents;
