<?php

declare(strict_types=1);

namespace App\Tests\Console;

use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** Figures do not depend on whether PHP compiles while it runs: the short form of make jit. */
final class JitTest extends TestCase
{
    public function testCompiledFitsGiveTheBytesOfPlainOnes(): void
    {
        $process = new Process([\PHP_BINARY, 'benchmarks/jit.php', '2'], \dirname(__DIR__, 2), null, null, 300);
        $process->run();
        self::assertSame(0, $process->getExitCode(), $process->getOutput().$process->getErrorOutput());
        self::assertStringContainsString('the same bytes', $process->getOutput());
    }
}
