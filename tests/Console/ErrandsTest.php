<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Operation\Errands;
use PHPUnit\Framework\TestCase;

/** What runs beside the supervisor every minute, for weeks: nothing of it stays behind. */
final class ErrandsTest extends TestCase
{
    private static function until(\Closure $holds): void
    {
        for ($end = microtime(true) + 20; !$holds(); usleep(5000)) {
            self::assertLessThan($end, microtime(true), 'It did not come to that.');
        }
    }

    private static function openFiles(): int
    {
        return \count(scandir('/proc/self/fd') ?: []);
    }

    public function testNothingStaysOpenOfWhatIsOver(): void
    {
        $errands = new Errands(sys_get_temp_dir());
        $run = static function () use ($errands): void {
            self::assertTrue($errands->begin('short', [\PHP_BINARY, '-n', '-r', 'echo str_repeat("words ", 50000);'], 20.0));
            self::until(static function () use ($errands): bool {
                $errands->tick();

                return 0 === $errands->underWay();
            });
        };
        $run();
        $before = self::openFiles();
        for ($i = 0; $i < 12; ++$i) {
            $run();
        }
        self::assertSame($before, self::openFiles());
    }

    public function testNoTwoOfANameAtOnceAndOneThatTakesTooLongIsEnded(): void
    {
        $errands = new Errands(sys_get_temp_dir());
        $long = [\PHP_BINARY, '-n', '-r', 'sleep(60);'];
        self::assertTrue($errands->begin('long', $long, 0.5));
        self::assertFalse($errands->begin('long', $long, 0.5));
        self::assertTrue($errands->begin('other', $long, 60.0));
        self::assertSame(2, $errands->underWay());
        self::until(static function () use ($errands): bool {
            $errands->tick();

            return 1 === $errands->underWay();
        });
        self::assertTrue($errands->begin('long', [\PHP_BINARY, '-n', '-r', ''], 5.0));
    }
}
