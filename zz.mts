import { parseScript } from './core/src/script/index.ts';
const heads = 'sensor floor is light on K3\nsensor front is distance on K2\nsensor nose is touch on K1\nsensor seen is colour on K4\nsensor gyro is heading on K5\nsensor left floor is light on K6\nmotor head is turret on MX\nlist readings\nlet n = 0\nlet found = no\nlet speed = 30\n';
const lines = `drive until floor < threshold
drive 30 until front < 20
drive 30% until nose pressed
drive forward until nose is pressed
go forward 30 % for 2 seconds
drive back 10 cm at 30 %
drive 30 % for 10 cm then stop
turn right 90
turn left 90 degrees at 20%
turn 90 deg right
turn around
turn until gyro > 90
spin right until seen is red
spin right at 20 until seen = red
stop for 2 s
wait 2
wait 2 seconds
wait until nose is not pressed
wait until 5 s
wait until front less than 10
wait until front is under 10 cm
wait until timer is at least 5 s
repeat 4
repeat 4 times:
repeat until nose pressed
while true
repeat while yes
forever do
if nose is pressed then stop
if front < 10 then
if not found
if found = true
if seen is not green
if seen is red or blue
if 10 < front < 20
if front between 10 and 20
if floor is dark
if floor is less than or equal to 40
else if seen is blue then
otherwise
set n to n + 1
set n = n + 1
n = n + 1
add 1 to n
increase n by 1
change n by 1
set speed to speed * 2
set found to not found
let x be 5
let x = yes
show n
show "n: " n
show "n: ", n
print "hello"
say hello
display n
log floor
log floor, front
beep
beep 3 times
beep for 1 s
play 440 Hz for 1 second
lamp green
light green
turn lamp on
steer 20 %
steer left 20 % at 30 %
steer -20 at 30
wheels 30 and 20
wheels 30, 20
left wheel 30 %
set speed to 50 %
reset gyro
zero n
reset wheels
turret right 45
turret to ahead
turret left until front < 20
random 1 to 6
set n to random 1 to 6
set n to a random number from 1 to 6
add floor to readings
set n to average of readings
set n to average readings
do measure
call measure
set n to measure
give back n
return n
send "go"
send go
wait until heard "go"
wait for "go"
when nose is pressed
whenever nose pressed
whenever nose is pressed do
break
continue
finish program
end program
stop program
stop all
stop driving
`.trim().split('\n');
for (const l of lines) { const block = /^(repeat|while|forever|if|loop|until|whenever|when )/.test(l); const elseish = /^(else|otherwise)/.test(l); const t = heads + (elseish ? 'if nose is pressed\n' : '') + (l === 'break' ? 'repeat\n' : '') + l + (block || elseish ? '\nend' : '') + '\ntask measure\n' + (/^(give|return)/.test(l) ? l : 'give back 3') + '\nend'; const f = parseScript(t).findings.filter((x) => !/never/.test(x.rule)); console.log(l.padEnd(46), f.length ? '✗ ' + f[0]!.says + ' → ' + f[0]!.mend : '✓'); }
