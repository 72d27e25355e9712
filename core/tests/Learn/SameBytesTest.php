<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use PHPUnit\Framework\TestCase;

/** Decision 38: the same seed gives the same bytes, compiled while it runs or not. */
final class SameBytesTest extends TestCase
{
    private const FIT = <<<'PHP'
        require $argv[1].'/vendor/autoload.php';
        $random = new Random\Randomizer(new Random\Engine\Mt19937(4));
        $x = $g = $y = [];
        for ($i = 0; $i < 1200; ++$i) {
            $x[] = $random->getInt(0, 999) / 7;
            $g[] = 'v'.$random->getInt(0, 140);
            $y[] = (float) ($x[$i] + $random->getInt(0, 80) > 110);
        }
        $table = Dokimos\Core\Table\Table::of(['x' => new Dokimos\Core\Table\NumberColumn($x), 'g' => Dokimos\Core\Table\CodedColumn::fromCells($g)]);
        foreach ([['forest', ['trees' => 12]], ['forest', ['trees' => 5, 'drawn' => true]], ['boosting', ['trees' => 40, 'rows' => 0.7]], ['tree', ['pruning' => 'by cost-complexity']], ['rules', []], ['logistic', []], ['logistic', ['penalty' => 'lasso']]] as [$learner, $settings]) {
            $task = new Dokimos\Core\Task\Task($table, ['x', 'g'], $y, range(0, 1199));
            echo $learner, ' ', hash('xxh128', json_encode(Dokimos\Core\Learners\Learners::make($learner, $settings)->fit($task)->toArray(), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)), "\n";
        }
        PHP;

    public function testCompiledOrNot(): void
    {
        $said = [];
        foreach ([['opcache.jit=0'], ['opcache.jit=1054', 'opcache.jit_buffer_size=128M']] as $flags) {
            $command = [\PHP_BINARY, '-d', 'pcov.enabled=0', '-d', 'opcache.enable_cli=1'];
            foreach ($flags as $flag) {
                array_push($command, '-d', $flag);
            }
            $process = proc_open(
                [...$command, '-r', self::FIT, '--', \dirname(__DIR__, 3)],
                [1 => ['pipe', 'w'], 2 => ['pipe', 'w']],
                $pipes,
            );
            self::assertIsResource($process);
            $said[] = stream_get_contents($pipes[1]);
            $errors = stream_get_contents($pipes[2]);
            self::assertSame(0, proc_close($process), (string) $errors);
        }
        self::assertSame(7, substr_count((string) $said[0], "\n"));
        self::assertSame($said[0], $said[1]);
    }
}
