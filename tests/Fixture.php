<?php

declare(strict_types=1);

namespace App\Tests;

use App\Operation\Compiled;
use Symfony\Component\Process\Process;

/** An installation with a small demo in it, made once and made anew when the code changes. */
final class Fixture
{
    private const ROWS = 1500;
    private static bool $begun = false;

    public static function ensure(): void
    {
        $root = \dirname(__DIR__);
        $data = $_SERVER['DOKIMOS_DATA'];
        \assert(\is_string($data));
        $files = array_merge(
            glob($root.'/src/*.php') ?: [],
            glob($root.'/src/*/*.php') ?: [],
            glob($root.'/src/*/*/*.php') ?: [],
            glob($root.'/core/src/*/*.php') ?: [],
            glob($root.'/core/src/*/*/*.php') ?: [],
            glob($root.'/migrations/*.php') ?: [],
            glob($root.'/config/*.yaml') ?: [],
            glob($root.'/config/packages/*.yaml') ?: [],
        );
        $stamp = hash('xxh128', implode('', array_map(static fn (string $f) => (string) hash_file('xxh3', $f), $files)));
        // A server begins empty each time.
        $server = '' !== ($_SERVER['DATABASE_URL'] ?? '');
        if (self::$begun && $server) {
            return;
        }
        if (!$server && @file_get_contents($data.'/stamp') === $stamp) {
            // What an earlier run computed belongs to rows that were rolled back.
            self::$begun || self::run(['rm', '-rf', $data.'/cache']);
            self::$begun = true;

            return;
        }
        self::$begun = true;
        // Beside this one another installation may be at work on the same code.
        self::run(['rm', '-rf', $data, ...($server ? [] : [$root.'/var/cache/test'])]);
        mkdir($data, 0775, true);
        self::console(['dokimos:migrate']);
        self::console(['dokimos:demo:load', '--rows='.self::ROWS]);
        file_put_contents($data.'/stamp', $stamp);
    }

    /** @param list<string> $arguments */
    public static function console(array $arguments, ?string $input = null, ?string $data = null): Process
    {
        return self::run([\PHP_BINARY, ...Compiled::options(), 'bin/console', ...$arguments], $input, $data);
    }

    /** @param list<string> $command */
    public static function run(array $command, ?string $input = null, ?string $data = null, bool $must = true): Process
    {
        $process = new Process(
            $command,
            \dirname(__DIR__),
            ['APP_ENV' => 'test', 'DOKIMOS_DATA' => $data ?? $_SERVER['DOKIMOS_DATA'], 'APP_SECRET' => false],
            $input,
            900,
        );
        $process->run();
        if ($must && !$process->isSuccessful()) {
            throw new \RuntimeException($process->getOutput().$process->getErrorOutput());
        }

        return $process;
    }
}
