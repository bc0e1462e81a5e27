/* SPDX-License-Identifier: Apache-2.0 */
typedef unsigned int u32; typedef unsigned char u8; typedef unsigned long u64;
__attribute__((section(".data.id"))) volatile char id[64]="PAYLOAD-ID:default";
static void pc(char c){*(volatile u32*)0x9000000UL=c;}
static void ps(const char*s){while(*s)pc(*s++);}
static u32 be(const u8*p){return (u32)p[0]<<24|p[1]<<16|p[2]<<8|p[3];}
static int eq(const char*a,const char*b){while(*a&&*a==*b)a++,b++;return *a==*b;}
static void hex(u64 v){for(int i=60;i>=0;i-=4)pc("0123456789abcdef"[(v>>i)&15]);}
void cmain(const u8*d){
 ps("\r\nPAYLOAD ");ps((const char*)id+11);ps("\r\n");
 if(be(d)!=0xd00dfeed){ps("PAYLOAD no-fdt\r\n");return;}
 const u8*p=d+be(d+8);const char*str=(const char*)d+be(d+12);int depth=0,chosen=0;
 for(;;){u32 t=be(p);p+=4;
  if(t==1){depth++;const char*n=(const char*)p;chosen=(depth==2&&eq(n,"chosen"))?1:(depth==2?0:chosen);while(*p)p++;p=(const u8*)(((u64)p+4)&~3UL);}
  else if(t==2){if(depth==2)chosen=0;depth--;}
  else if(t==3){u32 l=be(p);const char*n=str+be(p+4);const u8*v=p+8;p=(const u8*)(((u64)v+l+3)&~3UL);
   if(depth==1&&eq(n,"model")){ps("PAYLOAD model=");ps((const char*)v);ps("\r\n");}
   if(chosen&&depth==2){ if(eq(n,"bootargs")){ps("PAYLOAD bootargs=");ps((const char*)v);ps("\r\n");}
    else if(eq(n,"linux,initrd-start")||eq(n,"linux,initrd-end")){ps("PAYLOAD ");ps(n);ps("=");u64 a=0;for(u32 i=0;i<l;i++)a=a<<8|v[i];hex(a);ps("\r\n");}}}
  else if(t==9)break; else if(t!=4)break;}
 ps("PAYLOAD end\r\n");}
