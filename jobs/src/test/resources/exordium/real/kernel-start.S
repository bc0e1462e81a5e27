/* SPDX-License-Identifier: Apache-2.0 */
/* arm64 Image header + tiny program: prints "PAYLOAD <id>", /chosen bootargs, initrd range, then PSCI SYSTEM_OFF */
.section .text.head
.global _head
_head:	b	start
	.long	0
	.quad	0x0		/* text_offset */
	.quad	_end - _head	/* image_size */
	.quad	0xa		/* LE, 4K, anywhere */
	.quad	0,0,0
	.ascii	"ARM\x64"
	.long	0
start:	adr	x9, _stack_top
	mov	sp, x9
	bl	cmain
	ldr	w0, =0x84000008
	hvc	#0
1:	wfi
	b	1b
.global _stack_top
.bss
.balign 16
.space 4096
_stack_top:
