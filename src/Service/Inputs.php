<?php

declare(strict_types=1);

namespace App\Service;

/**
 * What callers sent, kept only where the owner of a service asks for it, and only as long: a file a day, one call a line. Days that are
 * over
 * go with the next call, when the page is looked at, and at housekeeping.
 */
final readonly class Inputs
{
    public const MOST_DAYS = 90;

    public function __construct(private string $dataDirectory)
    {
    }

    private function folder(int $service): string
    {
        return $this->dataDirectory.'/serve/kept-'.$service;
    }

    /**
     * @param array<mixed> $records
     * @param array<mixed> $answers
     */
    public function keep(int $service, int $days, int $version, int $caller, array $records, array $answers): void
    {
        $folder = $this->folder($service);
        is_dir($folder) || @mkdir($folder, 0770, true);
        $file = $folder.'/'.gmdate('Y-m-d').'.jsonl';
        if (!is_file($file)) {
            $this->forget($service, $days);
        }
        $line = json_encode(
            ['at' => gmdate(\DATE_ATOM), 'version' => $version, 'token' => $caller, 'records' => $records, 'answers' => $answers],
            \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION,
        );
        if (\is_string($line)) {
            file_put_contents($file, $line."\n", \FILE_APPEND | \LOCK_EX);
        }
    }

    /** @return list<int> services of which something is kept */
    public function services(): array
    {
        return array_map(
            static fn (string $folder): int => (int) substr(basename($folder), \strlen('kept-')),
            glob($this->dataDirectory.'/serve/kept-*', \GLOB_ONLYDIR) ?: [],
        );
    }

    /** @param int $days that stay; 0 = none */
    public function forget(int $service, int $days): void
    {
        $first = gmdate('Y-m-d', time() - ($days - 1) * 86400);
        foreach (glob($this->folder($service).'/*.jsonl') ?: [] as $file) {
            if (0 === $days || basename($file, '.jsonl') < $first) {
                @unlink($file);
            }
        }
    }

    /** @return int calls that were taken out because a value stands in them */
    public function without(string $value): int
    {
        $out = 0;
        $written = substr((string) json_encode($value, \JSON_UNESCAPED_UNICODE), 1, -1);
        foreach (glob($this->dataDirectory.'/serve/kept-*/*.jsonl') ?: [] as $path) {
            $lines = file($path) ?: [];
            $left = array_values(array_filter($lines, static fn (string $l): bool => !str_contains($l, $written)));
            if (\count($left) < \count($lines)) {
                file_put_contents($path, implode('', $left), \LOCK_EX);
                $out += \count($lines) - \count($left);
            }
        }

        return $out;
    }

    /** @return \Generator<int, string> lines of JSON, the oldest first */
    public function lines(int $service): \Generator
    {
        foreach (glob($this->folder($service).'/*.jsonl') ?: [] as $path) {
            $file = fopen($path, 'r');
            while (false !== $file && \is_string($line = fgets($file))) {
                yield $line;
            }
        }
    }
}
