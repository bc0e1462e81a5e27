/* SPDX-License-Identifier: Apache-2.0 */
/* hand-made AArch64 UEFI application (PE32+), 1 section. Prints "EFIPAYLOAD <id>", the device path is left to the firmware log,
   then returns EFI_NOT_FOUND (mode byte 'r'), or powers off by PSCI (mode 'o'). */
.section .head,"ax"
_head:	.ascii "MZ"
	.space 58
	.long pe - _head
pe:	.ascii "PE\0\0"
	.short 0xaa64
	.short 1
	.long 0,0,0
	.short sect - opt
	.short 0x206
opt:	.short 0x20b
	.byte 2,0x14
	.long _edata - _code
	.long 0,0
	.long _code - _head
	.long _code - _head
	.quad 0
	.long 0x1000, 0x1000
	.short 0,0,0,0,0,0
	.long 0
	.long _end - _head
	.long _code - _head
	.long 0
	.short 10,0
	.quad 0,0,0,0
	.long 0
	.long 6
	.quad 0,0,0,0,0,0
sect:	.ascii ".text\0\0\0"
	.long _end - _code
	.long _code - _head
	.long _edata - _code
	.long _code - _head
	.long 0,0
	.short 0,0
	.long 0xe0000060
	.balign 4096
_code:	adr x9, msg
	movz x2, #0x0900, lsl #16
1:	ldrb w3,[x9],#1
	cbz w3,2f
	str w3,[x2]
	b 1b
2:	adr x9, mode
	ldrb w3,[x9]
	cmp w3,#'o'
	b.eq 3f
	movz x0,#14
	movk x0,#0x8000,lsl #48
	ret
3:	ldr w0,=0x84000008
	hvc #0
	b .
	.ltorg
mode:	.ascii "r"
msg:	.ascii "\r\nEFIPAYLOAD "
id:	.ascii "ID:default"
	.space 54
	.ascii "\r\n\0"
	.balign 4096
_edata:
_end:
