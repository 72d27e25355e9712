<?php

declare(strict_types=1);

namespace App\Operation;

use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/**
 * Short programs that run beside the supervisor now and then: no two of a name at once, each let go of as soon as it is over. One that is
 * only forgotten keeps its pipes for as long as the supervisor lives.
 */
final class Errands
{
    /** @var array<string, Process> by name */
    private array $under = [];

    public function __construct(private readonly string $directory)
    {
    }

    /**
     * @param list<string> $command
     * @param float        $seconds after which it is ended
     *
     * @return bool false while the one before of that name is still under way
     */
    public function begin(string $name, array $command, float $seconds): bool
    {
        $this->tick();
        if (isset($this->under[$name])) {
            return false;
        }
        $process = new Process($command, $this->directory, null, null, $seconds);
        $process->disableOutput();
        $process->start();
        $this->under[$name] = $process;

        return true;
    }

    public function tick(): void
    {
        foreach ($this->under as $name => $process) {
            try {
                $process->checkTimeout();
            } catch (ProcessTimedOutException) {
                // It was ended; the next one of its name does what it left.
            }
            if (!$process->isRunning()) {
                unset($this->under[$name]);
            }
        }
    }

    public function underWay(): int
    {
        return \count($this->under);
    }
}
