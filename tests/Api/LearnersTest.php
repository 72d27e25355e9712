<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Job\PieceQueue;
use App\Job\RunPiece;
use App\Job\RunPieceHandler;
use App\Trial\Trial;
use PHPUnit\Framework\Attributes\DataProvider;

/** Every learner tried, judged, stored and used over HTTP. */
final class LearnersTest extends ApiTestCase
{
    private int $variant = 0;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $id = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        \assert(\is_int($id));
        $this->variant = $id;
    }

    /**
     * @param array<string, mixed> $settings
     *
     * @return array<mixed> the line of the Standings
     */
    private function tried(string $learner, array $settings): array
    {
        $trial = $this->call(
            'POST',
            '/api/studies/1/trials',
            ['variantId' => $this->variant, 'learner' => $learner, 'settings' => $settings],
            202,
        )['subject'];
        $this->work();
        $line = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id')[$trial];
        \assert(\is_array($line));
        self::assertSame('done', $line['state'], (string) json_encode($line['failure']));

        return $line;
    }

    /** @return iterable<string, array{string, array<string, mixed>, string, list<string>}> */
    public static function learners(): iterable
    {
        yield 'tree' => ['tree', ['depth' => 3], 'leaves', ['Questions in a row, at most: 3']];
        yield 'forest' => ['forest', ['trees' => 12], '12 trees', ['Trees: 12']];
        yield 'boosting' => [
            'boosting',
            ['trees' => 30, 'patience' => 0, 'rising' => 'days_ahead'],
            '30 trees',
            ['Trees, at most: 30', 'Stop after so many trees without gain: 0', 'May only rise with: days_ahead'],
        ];
    }

    /**
     * @param array<string, mixed> $settings
     * @param list<string>         $unusual
     */
    #[DataProvider('learners')]
    public function testALearnerIsTriedJudgedAndScores(string $learner, array $settings, string $size, array $unusual): void
    {
        $line = $this->tried($learner, $settings);
        self::assertStringContainsString($size, $line['size']);
        self::assertSame($unusual, $line['settings']);
        self::assertGreaterThan(0.55, $line['value']);
        self::assertCount(10, $line['each']);
        self::assertSame(0, $line['unanswered'], 'what is missing is answered for');
        $judgment = $this->judged($line['id']);
        self::assertSame([], $judgment['coefficients']);
        if ('tree' !== $learner) {
            self::assertEqualsWithDelta(1.0, array_sum(array_column($judgment['importance'], 'share')), 1e-9);
            self::assertGreaterThan(3, \count($judgment['course']));
        }
        $reasons = $this->call('GET', '/api/trials/'.$line['id'].'/reasons/7');
        self::assertGreaterThan(0.0, $reasons['chance']);
        self::assertSame([], $reasons['contributions'] ?? $reasons['columns'] ?? []);
        $sealed = $this->judged($line['id'], 'POST', 'seal');
        self::assertGreaterThan(0.5, $sealed['figures']['sealed']['auc']['value']);
    }

    /** @return iterable<string, array{string, array<string, mixed>}> */
    public static function orders(): iterable
    {
        yield 'logistic' => ['logistic', ['missing' => 'fill and mark']];
        yield 'tree, pruned by folds' => ['tree', ['depth' => 5, 'pruning' => 'by cost-complexity']];
        yield 'rules' => ['rules', ['leaf' => 25]];
        yield 'forest' => ['forest', ['trees' => 8]];
        yield 'boosting, thinned out' => ['boosting', ['trees' => 8, 'balance' => 'frequent ones thinned out']];
    }

    /**
     * Two workers finish in any order; what they leave is the same to the byte.
     *
     * @param array<string, mixed> $settings
     */
    #[DataProvider('orders')]
    public function testTheOrderInWhichPiecesFinishChangesNothing(string $learner, array $settings): void
    {
        $first = $this->tried($learner, $settings);
        $second = $this->call(
            'POST',
            '/api/studies/1/trials',
            ['variantId' => $this->variant, 'learner' => $learner, 'settings' => $settings],
            202,
        )['subject'];
        $queue = $this->service(PieceQueue::class);
        $handler = $this->service(RunPieceHandler::class);
        $claimed = [];
        while (null !== $piece = $queue->claim('long', 0 === \count($claimed) % 2 ? 'a' : 'b')) {
            $claimed[] = $piece;
        }
        self::assertCount(11, $claimed, 'ten folds and the whole');
        foreach (array_reverse($claimed) as $piece) {
            $handler(new RunPiece($piece));
        }
        $this->work();
        $this->entities()->clear();
        $left = [];
        foreach ([$first['id'], $second] as $id) {
            $trial = $this->entities()->find(Trial::class, $id);
            self::assertNotNull($trial);
            self::assertTrue($trial->isDone(), (string) $trial->failure());
            $left[] = serialize([$trial->figures(), $trial->model(), $trial->answers()]);
        }
        self::assertTrue($left[0] === $left[1]);
    }

    public function testATreeIsReadLeafByLeafOnRowsThatDidNotGrowIt(): void
    {
        $line = $this->tried('tree', ['depth' => 3, 'leaf' => 30]);
        $view = $this->call('GET', '/api/trials/'.$line['id'].'/tree');
        $tree = $view['tree'];
        self::assertTrue($tree['judged']);
        self::assertSame(
            [$tree['rows'], $tree['events']],
            [array_sum(array_column($tree['leaves'], 'rows')), array_sum(array_column($tree['leaves'], 'events'))],
        );
        self::assertSame(240, $tree['rows'], 'a fifth of 1,200 open rows');
        self::assertSame(960, $tree['trainingRows']);
        self::assertSame($line['size'], \count($tree['leaves']).' leaves');
        $branches = array_column($tree['branches'], null, 'node');
        foreach ($tree['leaves'] as $leaf) {
            self::assertContains($leaf['verdict'], ['Sound', 'Thin', 'Split']);
            self::assertTrue($branches[$leaf['node']]['leaf']);
            self::assertNotSame('', $leaf['says']);
            if (null !== $leaf['share']) {
                self::assertTrue($leaf['low'] <= $leaf['share'] && $leaf['share'] <= $leaf['high']);
            }
        }
        $this->call('GET', '/api/trials/'.$this->tried('logistic', [])['id'].'/tree', null, 404);
    }

    public function testARegressionChoosesItsColumnsAndSaysHow(): void
    {
        $line = $this->tried('logistic', ['selection' => 'forward', 'by' => 'p-value', 'steps' => 3]);
        self::assertContains('Choose columns: forward', $line['settings']);
        $judgment = $this->judged($line['id']);
        self::assertLessThanOrEqual(3, \count(array_filter($judgment['choice'], static fn (array $s) => 'enter' === $s['action'])));
        self::assertSame('enter', $judgment['choice'][0]['action']);
        self::assertLessThan(0.05, $judgment['choice'][0]['p']);
        self::assertContains($judgment['choice'][0]['column'], $judgment['choice'][0]['columns']);
        $lasso = $this->tried('logistic', ['penalty' => 'lasso', 'price' => 20]);
        self::assertStringContainsString('held back by a lasso of 20', implode(' ', $this->judged($lasso['id'])['notes']));
    }

    public function testSettingsAreDescribedAndRefusedInWords(): void
    {
        $learners = array_column($this->call('GET', '/api/learners'), null, 'name');
        self::assertSame(['two classes', 'several classes', 'number'], $learners['boosting']['tasks']);
        foreach ($learners as $learner) {
            foreach ($learner['settings'] as $setting) {
                self::assertNotSame('', $setting['explanation'], $setting['name']);
            }
        }
        $refuse = fn (array $settings, string $learner = 'tree'): mixed => $this->call(
            'POST',
            '/api/studies/1/trials',
            ['variantId' => $this->variant, 'learner' => $learner, 'settings' => $settings],
            422,
        )['title'];
        self::assertSame('"Questions in a row, at most" is a whole number from 0 to 60.', $refuse(['depth' => 'deep']));
        self::assertSame('Decision tree has no setting called "trees".', $refuse(['trees' => 5]));
        self::assertSame('There is no learner called "oracle".', $refuse([], 'oracle'));
    }
}
