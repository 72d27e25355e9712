<?php

declare(strict_types=1);

namespace App\Source;

use Dokimos\Core\Format\Container;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Progress;
use Symfony\Component\Process\Process;

/**
 * A workbook or a database file that is read in a process of its own, with limits of computing time and of memory: a statement that never
 * ends, or a file that unpacks to more than there is, ends that process and nothing else. Cancelling ends it at once.
 */
final class ContainerApart extends Container
{
    /** Seconds of computing: for a look, while somebody waits at the screen, and for an import, which a worker does. */
    public const LOOK = 5;
    public const IMPORT = 120;
    /** Address space; what PHP itself may take of it. */
    private const MEGABYTES = 768;
    private const OF_THAT_PHP = 448;
    /** A process that waits for a disk computes nothing. */
    private const PATIENCE = 3;
    private const XCPU = 24;

    private function __construct(private readonly string $path, private readonly string $what, private readonly int $seconds, private readonly string $script, private readonly ?Progress $progress)
    {
    }

    /** @return ?self null for what is neither, so most likely text */
    public static function of(string $path, int $seconds, string $projectDirectory, ?Progress $progress = null): ?self
    {
        $what = Container::kindOf($path);

        return null === $what ? null : new self($path, $what, $seconds, $projectDirectory.'/bin/read-container', $progress);
    }

    public function what(): string
    {
        return $this->what;
    }

    public function parts(): array
    {
        $parts = $this->ask('parts');

        return array_map(static fn (mixed $p): string => \is_scalar($p) ? (string) $p : '', \is_array($parts) ? array_values($parts) : []);
    }

    public function about(string $part): ?int
    {
        $about = $this->ask('about', $part);

        return \is_int($about) ? $about : null;
    }

    public function write(string $part, string $to, int $most): void
    {
        $this->ask('write', $part, $to, $most);
    }

    private function ask(string $do, string $part = '', string $to = '', int $most = 0): mixed
    {
        $process = new Process([\PHP_BINARY, '-d', 'memory_limit='.self::OF_THAT_PHP.'M', '-d', 'opcache.enable_cli=0', '-d', 'display_errors=stderr', $this->script], null, null, json_encode(['path' => $this->path, 'do' => $do, 'part' => $part, 'to' => $to, 'most' => $most, 'seconds' => $this->seconds, 'megabytes' => self::MEGABYTES], \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE), null);
        $until = microtime(true) + self::PATIENCE * $this->seconds;
        $process->start();
        try {
            for ($wait = 2000; $process->isRunning(); $wait = min(50000, 2 * $wait)) {
                usleep($wait);
                $this->progress?->report(0.0);
                if (microtime(true) > $until) {
                    throw $this->tookTooLong();
                }
            }
        } finally {
            if ($process->isRunning()) {
                $process->stop(0.0, \SIGKILL);
            }
        }
        $said = json_decode($process->getOutput(), true);
        if (\is_array($said) && \is_string($said['refused'] ?? null)) {
            throw new UnreadableTable($said['refused']);
        }
        if (\is_array($said) && \array_key_exists('answer', $said)) {
            return $said['answer'];
        }
        throw $process->hasBeenSignaled() && \in_array($process->getTermSignal(), [self::XCPU, \SIGKILL], true) ? $this->tookTooLong() : new UnreadableTable(\sprintf('Reading the %s takes more than the %d MB that it may use. %s Nothing was imported.', $this->what, self::MEGABYTES, $this->instead()));
    }

    private function tookTooLong(): UnreadableTable
    {
        return new UnreadableTable(\sprintf('Reading the %s takes more than %s of computing%s. %s Nothing was imported.', $this->what, Words::count($this->seconds, 'second'), $this->seconds <= self::LOOK ? ', too long for a look' : '', $this->instead()));
    }

    private function instead(): string
    {
        return 'database' === $this->what ? 'Choose a table, or narrow the statement, and try again.' : 'Save the sheet as CSV and try again.';
    }
}
