// SPDX-License-Identifier: Apache-2.0
/** What comes into the house: boards, drives and images taken in, and which image is in use where. In: bench and run. Out: rows and files. */
package exordium.jobs.shelf;
