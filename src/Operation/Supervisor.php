<?php

declare(strict_types=1);

namespace App\Operation;

/**
 * Keeps a set of programs running, each in a process group of its own; one that ends at once is started again ever more slowly. Should the
 * supervisor itself be killed, a small companion ends them: bin/end-with-parent.
 */
final class Supervisor
{
    /** Seconds between looks at the children of a program. */
    private const LOOK_EVERY = 2.0;

    /** @var array<string, array{command: list<string>, environment: array<string, string>, children: int, nice: int, pid: ?int, started: float, next: float, wait: float}> */
    private array $programs = [];
    /** @var ?resource the companion is told here what was begun */
    private mixed $companion = null;
    /** @var ?resource its process */
    private mixed $kept = null;
    private float $look = 0.0;

    /**
     * @param \Closure(string): void    $say
     * @param \Closure(int, bool): void $ended told the process id of a program that ended, and whether by itself
     */
    public function __construct(private readonly string $directory, private readonly \Closure $say, private readonly \Closure $ended)
    {
    }

    /**
     * @param list<string>          $command
     * @param array<string, string> $environment
     * @param int                   $children    processes that it divides its work among; when one of them is gone it is started anew
     * @param int                   $nice        how far it gives way to others where processors are short, 0 to 19
     */
    public function add(string $name, array $command, array $environment, int $children = 0, int $nice = 0): void
    {
        $this->programs[$name] = ['command' => $command, 'environment' => $environment, 'children' => $children, 'nice' => $nice, 'pid' => null, 'started' => 0.0, 'next' => 0.0, 'wait' => 0.5];
    }

    public function tick(): void
    {
        $now = microtime(true);
        $look = $now >= $this->look;
        $this->look = $look ? $now + self::LOOK_EVERY : $this->look;
        foreach ($this->programs as $name => &$program) {
            if (null !== $program['pid'] && $look && $program['children'] > 0 && $now - $program['started'] > 5.0 && self::children($program['pid']) < $program['children']) {
                ($this->say)(\sprintf('A process of %s ended; starting it again.', $name));
                posix_kill(-$program['pid'], \SIGKILL);
            }
            if (null !== $program['pid'] && pcntl_waitpid($program['pid'], $status, \WNOHANG) > 0) {
                // Workers end themselves after an hour's work: only a program that fell over soon is worth a word.
                if ($now - $program['started'] < 5.0) {
                    $program['wait'] = min(30.0, 2 * $program['wait']);
                    ($this->say)(\sprintf('%s ended; starting it again in %.0f s.', $name, $program['wait']));
                    $program['next'] = $now + $program['wait'];
                } else {
                    $program['wait'] = 0.5;
                    $program['next'] = 0.0;
                }
                posix_kill(-$program['pid'], \SIGKILL);
                $this->tell('-', $program['pid']);
                ($this->ended)($program['pid'], true);
                $program['pid'] = null;
            }
            if (null === $program['pid'] && $now >= $program['next']) {
                $program['pid'] = $this->launch($program['command'], $program['environment'], $program['nice']);
                $program['started'] = $now;
                // Where there is no room for another process, there may be some later.
                $program['next'] = $now + $program['wait'];
            }
        }
    }

    /** How many processes a process has; as many as could be wanted where the system does not tell. */
    private static function children(int $pid): int
    {
        $told = @file_get_contents("/proc/$pid/task/$pid/children");

        // One that has ended is listed until its parent takes note; it has no command any more.
        return false === $told ? \PHP_INT_MAX : \count(array_filter(explode(' ', trim($told)), static fn (string $child): bool => '' !== $child && '' !== (string) @file_get_contents("/proc/$child/cmdline")));
    }

    private function tell(string $sign, int $pid): void
    {
        if (null === $this->companion) {
            $this->kept = proc_open([\PHP_BINARY, '-d', 'opcache.enable_cli=0', $this->directory.'/bin/end-with-parent'], [0 => ['pipe', 'r']], $pipes) ?: null;
            $this->companion = $pipes[0] ?? null;
        }
        if (null !== $this->companion) {
            @fwrite($this->companion, $sign.$pid."\n");
            @fflush($this->companion);
        }
    }

    /**
     * @param list<string>          $command
     * @param array<string, string> $environment
     */
    private function launch(array $command, array $environment, int $nice): ?int
    {
        $pid = pcntl_fork();
        if ($pid < 0) {
            ($this->say)('The system has no room for another process; trying again.');

            return null;
        }
        if (0 === $pid) {
            posix_setpgid(0, 0);
            @proc_nice($nice);
            if (null !== $this->companion) {
                fclose($this->companion);
            }
            chdir($this->directory);
            fclose(\STDIN);
            $log = ($_SERVER['DOKIMOS_DATA'] ?? '/tmp').'/log';
            @mkdir($log, 0770, true);
            $strings = array_filter([...getenv(), ...$_SERVER], is_string(...));
            $inherited = array_intersect_key($strings, array_flip([...Environment::NAMES, 'PATH', 'HOME', 'LANG', 'TZ']));
            // A shell only to send the program's own chatter to a file; exec keeps the process id. Without room for the file nothing is kept of it.
            pcntl_exec('/bin/sh', ['-c', 'exec "$@" >>"$0" 2>&1', @touch($log.'/processes.out') ? $log.'/processes.out' : '/dev/null', ...$command], $environment + $inherited);
            exit(127);
        }
        posix_setpgid($pid, $pid);
        $this->tell('+', $pid);

        return $pid;
    }

    /** Asks all to end, and after five seconds no longer asks. */
    public function stop(): void
    {
        $asked = array_filter(array_column($this->programs, 'pid'));
        foreach ([\SIGTERM, \SIGKILL] as $signal) {
            foreach ($this->programs as $program) {
                if (null !== $program['pid']) {
                    posix_kill(-$program['pid'], $signal);
                }
            }
            for ($i = 0; $i < 50 && $this->running(); ++$i) {
                usleep(100000);
            }
        }
        foreach ($asked as $pid) {
            $this->tell('-', $pid);
            ($this->ended)($pid, false);
        }
        if (null !== $this->companion) {
            fclose($this->companion);
            null === $this->kept || proc_close($this->kept);
            $this->companion = $this->kept = null;
        }
    }

    private function running(): bool
    {
        $any = false;
        foreach ($this->programs as &$program) {
            if (null !== $program['pid'] && 0 !== pcntl_waitpid($program['pid'], $status, \WNOHANG)) {
                posix_kill(-$program['pid'], \SIGKILL);
                $program['pid'] = null;
            }
            $any = $any || null !== $program['pid'];
        }

        return $any;
    }
}
