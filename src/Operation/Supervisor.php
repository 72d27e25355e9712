<?php

declare(strict_types=1);

namespace App\Operation;

/** Keeps a set of programs running, each in a process group of its own; one that ends at once is started again ever more slowly. */
final class Supervisor
{
    /** @var array<string, array{command: list<string>, environment: array<string, string>, pid: ?int, started: float, next: float, wait: float}> */
    private array $programs = [];

    /**
     * @param \Closure(string): void $say
     * @param \Closure(int): void    $ended told the process id of a program that ended by itself
     */
    public function __construct(private readonly string $directory, private readonly \Closure $say, private readonly \Closure $ended)
    {
    }

    /**
     * @param list<string>          $command
     * @param array<string, string> $environment
     */
    public function add(string $name, array $command, array $environment): void
    {
        $this->programs[$name] = ['command' => $command, 'environment' => $environment, 'pid' => null, 'started' => 0.0, 'next' => 0.0, 'wait' => 0.5];
    }

    public function tick(): void
    {
        $now = microtime(true);
        foreach ($this->programs as $name => &$program) {
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
                ($this->ended)($program['pid']);
                $program['pid'] = null;
            }
            if (null === $program['pid'] && $now >= $program['next']) {
                $program['pid'] = $this->launch($program['command'], $program['environment']);
                $program['started'] = $now;
            }
        }
    }

    /**
     * @param list<string>          $command
     * @param array<string, string> $environment
     */
    private function launch(array $command, array $environment): int
    {
        $pid = pcntl_fork();
        if ($pid < 0) {
            throw new \RuntimeException('The system has no room for another process.');
        }
        if (0 === $pid) {
            posix_setpgid(0, 0);
            chdir($this->directory);
            fclose(\STDIN);
            $log = ($_SERVER['DOKIMOS_DATA'] ?? '/tmp').'/log';
            @mkdir($log, 0770, true);
            $strings = array_filter([...getenv(), ...$_SERVER], is_string(...));
            $inherited = array_intersect_key($strings, array_flip([...Environment::NAMES, 'PATH', 'HOME', 'LANG', 'TZ']));
            // A shell only to send the program's own chatter to a file; exec keeps the process id.
            pcntl_exec('/bin/sh', ['-c', 'exec "$@" >>"$0" 2>&1', $log.'/processes.out', ...$command], $environment + $inherited);
            exit(127);
        }
        posix_setpgid($pid, $pid);

        return $pid;
    }

    /** Asks all to end, and after five seconds no longer asks. */
    public function stop(): void
    {
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
