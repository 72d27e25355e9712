<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** A file that holds everything that columns should not: it is read, drawn, learned from and judged, or a sentence says why not. */
final class HostileTest extends ApiTestCase
{
    private int $study = 0;
    private int $table = 0;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        mt_srand(33);
        $csv = "y,number,class,constant,empty,huge,infinite,many,copy,same,blank\n";
        for ($i = 0; $i < 900; ++$i) {
            $x = mt_rand(-300, 300) / 100;
            $outcome = 0 === $i % 50 ? '' : (mt_rand() / mt_getrandmax() < 1 / (1 + exp(-$x)) ? 'yes' : 'no');
            $csv .= implode(
                ',',
                [
                    $outcome,
                    3 * $x + mt_rand(-100, 100) / 50,
                    ['a', 'b', 'c'][mt_rand(0, 2)],
                    7,
                    '',
                    ['1e300', '-1e300', '1'][mt_rand(0, 2)],
                    ['inf', '1e999', '1', '2'][mt_rand(0, 3)],
                    'c'.mt_rand(0, 9999),
                    $x,
                    2 * $x,
                    ['', '  ', 'word'][mt_rand(0, 2)],
                ],
            )."\n";
        }
        $study = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Hostile', 'question' => 'Does it hold?', 'uploadId' => $this->upload($csv, 'hostile.csv')],
            201,
        )['id'];
        \assert(\is_int($study));
        $this->study = $study;
        $this->work();
        $table = $this->call('GET', "/api/studies/$study")['tableId'];
        \assert(\is_int($table));
        $this->table = $table;
    }

    /** @param array<string, mixed> $target */
    private function aim(array $target): void
    {
        $this->call(
            'PUT',
            "/api/studies/$this->study/target",
            $target + ['folds' => 2, 'repeats' => 1],
            200,
            ['If-Match' => (string) $this->call('GET', "/api/studies/$this->study")['version']],
        );
    }

    public function testItIsReadAndDrawn(): void
    {
        $this->aim(['column' => 'y', 'event' => 'yes']);
        $columns = array_column($this->call('GET', "/api/tables/$this->table")['columns'], null, 'name');
        self::assertSame(
            ['number', 900, 'number', 'category'],
            [$columns['empty']['kind'], $columns['empty']['missing'], $columns['huge']['kind'], $columns['infinite']['kind']],
        );
        foreach ($columns as $column) {
            $this->call('GET', '/api/columns/'.$column['id']);
            $this->call('GET', '/api/columns/'.$column['id'].'/more');
        }
        foreach ([
            'findings',
            'rows?sort=huge',
            'pictures/missing',
            'pictures/repeats',
            'pictures/apart',
            'pictures/lopsided',
            'pictures/together',
            'pictures/two?x=huge&y=class',
            'pictures/two?x=infinite&y=huge',
            'pictures/two?x=huge&y=copy',
            'pictures/two?x=empty&y=huge',
        ] as $part) {
            $this->call('GET', "/api/tables/$this->table/$part");
        }
    }

    /** @return iterable<string, array{array<string, mixed>, list<array{string, array<string, mixed>, ?string}>}> target; learners with their settings and what they say when they cannot */
    public static function targets(): iterable
    {
        $marks = ['missing' => 'fill and mark'];
        yield 'an event' => [['column' => 'y', 'event' => 'yes'], [
            ['logistic', $marks, null], ['logistic', $marks + ['selection' => 'best subsets'], null], [
                'logistic',
                $marks + ['coding' => 'ordered', 'rare' => 4, 'penalty' => 'lasso', 'scale' => 'as they are'],
                null,
            ],
            ['tree', [], null], ['rules', [], null], ['forest', ['trees' => 8], null], ['boosting', ['trees' => 20], null], [
                'baseline',
                ['answer' => 'rule by one column'],
                null,
            ],
        ]];
        yield 'a number' => [['column' => 'number', 'task' => 'number'], [
            [
                'linear',
                $marks,
                'The numbers of huge are too large',
            ], ['tree', [], null], ['forest', ['trees' => 8], null], ['boosting', ['trees' => 20], null], ['baseline', ['answer' => 'median'], null],
        ]];
        yield 'several classes' => [['column' => 'class', 'task' => 'several classes'], [
            ['multinomial', $marks, null], [
                'multinomial',
                $marks + ['selection' => 'forward', 'steps' => 1],
                null,
            ], ['tree', [], null], ['forest', ['trees' => 8], null], ['boosting', ['trees' => 20], null],
        ]];
    }

    /**
     * @param array<string, mixed>                               $target
     * @param list<array{string, array<string, mixed>, ?string}> $learners
     */
    #[DataProvider('targets')]
    public function testItIsLearnedFromOrASentenceSaysWhyNot(array $target, array $learners): void
    {
        $this->aim($target);
        $variant = $this->call('GET', "/api/studies/$this->study/preparation")['variants'][0]['id'];
        foreach ($learners as [$learner, $settings, $says]) {
            $id = $this->call(
                'POST',
                "/api/studies/$this->study/trials",
                ['variantId' => $variant, 'learner' => $learner, 'settings' => $settings],
                202,
            )['subject'];
            $this->work();
            $line = array_column($this->call('GET', "/api/studies/$this->study/trials")['trials'], null, 'id')[$id];
            if (null !== $says) {
                self::assertSame('failed', $line['state']);
                self::assertStringContainsString($says, $line['failure']);
                continue;
            }
            self::assertSame(['done', null], [$line['state'], $line['failure']], $learner);
            self::assertTrue(is_finite($line['value']));
            $this->call('GET', "/api/trials/$id/judgment");
            $this->call('GET', isset($target['event']) ? "/api/trials/$id/reasons/7" : "/api/trials/$id/worst");
            $this->call('GET', "/api/trials/$id/groups?by=infinite");
        }
    }
}
