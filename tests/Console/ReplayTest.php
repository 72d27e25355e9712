<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Tests\Fixture;
use PHPUnit\Framework\TestCase;

/** A study is done again on another installation, from its file and the same source: the same figures to the last bit. */
final class ReplayTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        Fixture::ensure();
        $this->folder = sys_get_temp_dir().'/dokimos-replay-'.bin2hex(random_bytes(4));
        mkdir($this->folder.'/data', 0775, true);
    }

    protected function tearDown(): void
    {
        Fixture::run(['rm', '-rf', $this->folder]);
    }

    /** @param list<string> $arguments */
    private function console(array $arguments, bool $here, ?string $input = null): string
    {
        $data = $here ? $_SERVER['DOKIMOS_DATA'] : $this->folder.'/data';
        \assert(\is_string($data));
        $process = Fixture::run([\PHP_BINARY, 'bin/console', ...$arguments], $input, $data, false);

        return $process->getOutput().$process->getErrorOutput();
    }

    public function testTheSameSourceGivesTheSameBits(): void
    {
        $file = $this->folder.'/study.json';
        self::assertStringContainsString('Nobody home', $this->console(['dokimos:study:save', '2', '--out='.$file], true));
        self::assertStringContainsString('no such study', $this->console(['dokimos:study:save', '99'], true));
        /** @var array{sources: list<array{rows: int, file: string}>, trials: list<array<string, mixed>>} $saved */
        $saved = json_decode((string) file_get_contents($file), true, 512, \JSON_THROW_ON_ERROR);
        self::assertCount(2, $saved['trials']);
        // The demo's source, drawn by its own seed once more.
        $visits = $this->folder.'/visits.csv';
        $this->console(
            ['dokimos:demo:generate', '--dir='.$this->folder.'/made', '--rows='.$saved['sources'][0]['rows'], '--only=visits'],
            true,
        );
        $made = glob($this->folder.'/made/visits*.csv') ?: [];
        self::assertNotSame([], $made);
        rename($made[0], $visits);

        $this->console(['dokimos:migrate'], false);
        $this->console(['dokimos:user:add', 'nora', 'Nora Wells'], false, "a-long-password\n");
        $says = $this->console(['dokimos:study:run', $file, '--by=nora', '--source=visits='.$visits], false);
        self::assertStringContainsString('2 trials are the same to the last bit, 0 otherwise, 0 not done', $says);

        // Other records are said, with where they part.
        $lines = file($visits) ?: [];
        unset($lines[7]);
        file_put_contents($visits, implode('', $lines));
        $says = $this->console(['dokimos:study:run', $file, '--by=nora', '--source=visits='.$visits], false);
        self::assertStringContainsString('The records of visits are others', $says);
        self::assertStringContainsString('parts at the records, the target or the split', $says);
        self::assertStringContainsString('0 trials are the same', $says);

        foreach (['{"a": 1}' => 'no study as Dokimos writes it', 'x' => 'it is not JSON'] as $text => $wanted) {
            file_put_contents($file, $text);
            self::assertStringContainsString($wanted, $this->console(['dokimos:study:run', $file, '--by=nora'], false));
        }
        self::assertStringContainsString('Say whose it will be', $this->console(['dokimos:study:run', $file, '--by=nobody'], false));
    }
}
