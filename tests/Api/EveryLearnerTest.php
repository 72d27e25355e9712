<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;

/** Every learner at every station, for each kind of target that it takes: tried, judged, read, accounted for, scored and decided on. */
final class EveryLearnerTest extends ApiTestCase
{
    /** Quick settings where the usual ones take long. */
    private const QUICK = [
        'forest' => ['trees' => 20],
        'boosting' => ['trees' => 60],
        'additive' => ['bags' => 2, 'pairs' => 1],
        'neural-network' => ['epochs' => 15, 'find' => 'no', 'layers' => '8'],
    ];
    /** What its page shows of it. */
    private const SHOWS = [
        'additive' => ['curves'],
        'naive-bayes' => ['evidence'],
        'bayes-network' => ['network', 'evidence'],
        'neighbors' => ['neighbors'],
        'neural-network' => ['course'],
        'tree' => ['leaves'],
        'rules' => ['rules'],
        'forest' => ['trees'],
        'boosting' => ['trees'],
        'logistic' => ['coefficients'],
        'linear' => ['coefficients'],
        'multinomial' => ['coefficients'],
    ];

    private const TARGETS = [
        Task::TWO => ['came', ['event' => 'yes']],
        Task::MORE => ['kind', ['task' => Task::MORE]],
        Task::NUMBER => ['spent', ['task' => Task::NUMBER]],
    ];

    /** @return iterable<string, array{string}> */
    public static function tasks(): iterable
    {
        foreach (array_keys(self::TARGETS) as $task) {
            yield $task => [$task];
        }
    }

    private static function lines(int $rows, int $seed): string
    {
        mt_srand($seed);
        $out = ["id,days,age,area,came,kind,spent\n"];
        for ($i = 0; $i < $rows; ++$i) {
            $days = mt_rand(0, 30);
            $age = mt_rand(0, 400) / 10;
            $area = ['north', 'south', 'east'][mt_rand(0, 2)];
            $pull = $days / 10 - $age / 20 + ('north' === $area ? 1 : 0) + mt_rand(-100, 100) / 100;
            $kind = $pull < 0 ? 'call' : ($pull < 1.6 ? 'visit' : 'letter');
            $out[] = \sprintf(
                "N%05d,%d,%.1f,%s,%s,%s,%.2f\n",
                $seed * 10000 + $i,
                $days,
                $age,
                $area,
                $pull > 0.9 ? 'yes' : 'no',
                $kind,
                40 + 10 * $pull,
            );
        }

        return implode('', $out);
    }

    #[DataProvider('tasks')]
    public function testEachLearnerDoesAllThatIsDoneWithAModel(string $task): void
    {
        $this->signIn();
        [$target, $more] = self::TARGETS[$task];
        $id = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Each', 'question' => 'Which?', 'uploadId' => $this->upload(self::lines(300, 1), 'each.csv')],
            201,
        )['id'];
        $this->work();
        $study = $this->call('GET', "/api/studies/$id");
        foreach ($this->call('GET', '/api/tables/'.$study['tableId'])['columns'] as $column) {
            if (\in_array($column['name'], ['came', 'kind', 'spent'], true) && $column['name'] !== $target) {
                $this->call(
                    'PATCH',
                    '/api/columns/'.$column['id'],
                    ['use' => 'set aside'],
                    200,
                    ['If-Match' => (string) $column['version']],
                );
            }
        }
        $version = (string) $this->call('GET', "/api/studies/$id")['version'];
        $this->call(
            'PUT',
            "/api/studies/$id/target",
            $more + ['column' => $target, 'folds' => 2, 'repeats' => 1],
            200,
            ['If-Match' => $version],
        );
        $this->call('POST', "/api/studies/$id/tables", ['uploadId' => $this->upload(self::lines(40, 2), 'new.csv'), 'name' => 'new'], 202);
        $this->work();
        $new = array_column($this->call('GET', "/api/studies/$id/tables"), 'id', 'name')['new'];
        $variant = $this->call('GET', "/api/studies/$id/preparation")['variants'][0]['id'];
        $done = [];
        foreach (Learners::all() as $learner) {
            if (!\in_array($task, $learner->tasks, true)) {
                continue;
            }
            $name = $learner->name;
            $asked = ['variantId' => $variant, 'learner' => $name, 'settings' => self::QUICK[$name] ?? []];
            $trial = $this->call('POST', "/api/studies/$id/trials", $asked, 202)['subject'];
            $this->work();
            $line = array_column($this->call('GET', "/api/studies/$id/trials")['trials'], null, 'id')[$trial];
            self::assertSame('done', $line['state'], $name.': '.json_encode($line['failure']));
            $judged = $this->judged($trial);
            $kinds = array_column($judged['sections'], 'kind');
            self::assertSame([], array_diff(self::SHOWS[$name] ?? [], $kinds), $name.' shows '.implode(', ', $kinds));
            if ('baseline' === $name) {
                continue;
            }
            $this->isAccountedFor($name, $trial);
            $this->reaches($name, $trial, $task);
            $this->isScoredAndDecidedOn($name, $trial, $task, $id, $new);
            $done[] = $trial;
        }
        $this->isBlended($id, $task, \array_slice($done, 0, 3), $new);
        if (Task::TWO === $task) {
            $this->isSearched($id, $variant, $task);
        }
    }

    /** A guided search tries every learner that can be searched, and says why one could not be fitted. */
    private function isSearched(int $study, int $variant, string $task): void
    {
        $asked = ['variantId' => $variant, 'tries' => 14, 'reading' => null];
        $search = $this->call('POST', "/api/studies/$study/guided", $asked, 202)['subject'];
        $this->work();
        $view = $this->call('GET', "/api/guided/$search");
        self::assertSame('done', $view['state'], (string) json_encode($view['failure'] ?? null));
        $searched = [];
        foreach (Learners::all() as $about) {
            if (\in_array($task, $about->tasks, true) && null !== Learners::card($about->name)->searched) {
                $searched[] = $about->name;
            }
        }
        $tried = array_values(array_unique(array_column($view['tries'], 'learner')));
        self::assertSame([], array_diff($searched, $tried));
        foreach ($view['tries'] as $one) {
            self::assertTrue(null !== $one['value'] || null !== $one['why'], $one['learner']);
        }
    }

    /** What would have to change of a record for another answer, in steps the record can take. */
    private function reaches(string $name, int $trial, string $task): void
    {
        $wish = match ($task) {
            Task::TWO => ['low' => 0.02],
            Task::MORE => ['other' => true],
            default => ['low' => 30.0],
        };
        // A tree of few leaves does not ask for every column.
        $asked = array_column($this->call('GET', "/api/trials/$trial/reasons/3")['account']['columns'], 'column');
        $free = array_map(static fn (string $c): array => ['column' => $c], array_values(array_intersect(['days', 'age', 'area'], $asked)));
        self::assertNotSame([], $free, $name);
        $reached = $this->call('POST', "/api/trials/$trial/reasons/3/reach", $wish + ['free' => $free, 'likely' => 0.0]);
        self::assertGreaterThan(0, $reached['tried'], $name);
        self::assertTrue([] !== $reached['found'] || null !== $reached['nearest'], $name);
        foreach ($reached['found'] as $one) {
            $given = [];
            foreach ($one['changes'] as $change) {
                $given[$change['column']] = $change['to'];
            }
            // Imagined by hand, the same change gives the same answer.
            $imagined = $this->call('POST', "/api/trials/$trial/reasons/3/imagine", ['changes' => $given]);
            self::assertEquals($one['answer'], $imagined['after'], $name);
        }
    }

    private function isScoredAndDecidedOn(string $name, int $trial, string $task, int $study, int $table): void
    {
        $job = $this->call('POST', "/api/studies/$study/scorings", ['trialId' => $trial, 'tableId' => $table, 'cutoff' => 0.3], 202);
        $this->work();
        $batch = $this->call('GET', '/api/scorings/'.$job['subject']);
        self::assertSame(['done', 40], [$batch['state'], $batch['scored']], $name);
        $terms = match ($task) {
            Task::MORE => ['actions' => [['name' => 'Call', 'amounts' => [1, -1, 2]]], 'nothing' => [0, 0, 0]],
            Task::NUMBER => ['limit' => 45, 'side' => 'over'],
            default => ['cost' => 5],
        };
        $list = $this->call('POST', '/api/scorings/'.$job['subject'].'/decisions', ['name' => $name, 'terms' => $terms], 201);
        self::assertSame(40, $list['scored'], $name);
    }

    /**
     * Trials blended are a trial: judged, accounted for, scored and decided on.
     *
     * @param list<int> $trials
     */
    private function isBlended(int $study, string $task, array $trials, int $table): void
    {
        $before = array_column($this->call('GET', "/api/studies/$study/trials")['trials'], null, 'id');
        $blend = 0;
        foreach (Task::TWO === $task ? ['mean', 'weights', 'regression on log-odds'] : ['mean', 'weights'] as $how) {
            $blend = $this->call('POST', "/api/studies/$study/blends", ['trials' => $trials, 'how' => $how], 202)['subject'];
            $this->work();
            $line = array_column($this->call('GET', "/api/studies/$study/trials")['trials'], null, 'id')[$blend];
            self::assertSame(
                ['done', 'Blend', '3 trials'],
                [$line['state'], $line['title'], $line['size']],
                (string) json_encode($line['failure']),
            );
            $section = array_column($this->judged($blend)['sections'], null, 'kind')['blend'];
            self::assertSame([$how, $trials], [$section['how'], array_column($section['members'], 'trialId')]);
            if ('regression on log-odds' !== $how) {
                self::assertEqualsWithDelta(1.0, array_sum(array_column($section['members'], 'weight')), 1e-9);
            }
            self::assertNotNull($before[$trials[0]]['value']);
            self::assertNotNull($line['value']);
        }
        $this->isAccountedFor('blend', $blend);
        $this->isScoredAndDecidedOn('blend', $blend, $task, $study, $table);
        $says = $this->call('POST', "/api/studies/$study/blends", ['trials' => [$trials[0], $blend]], 409)['title'];
        self::assertStringContainsString('is a blend itself', $says);
        $this->call('POST', "/api/studies/$study/blends", ['trials' => [$trials[0]]], 422);
        $this->call('POST', "/api/studies/$study/blends", ['trials' => [$trials[0], $trials[0]]], 422);
        $this->call('POST', "/api/studies/$study/blends", ['trials' => [$trials[0], 999999]], 404);
        $this->call('POST', "/api/studies/$study/blends", ['trials' => $trials, 'how' => 'luck'], 422);
        if (Task::TWO !== $task) {
            $this->call('POST', "/api/studies/$study/blends", ['trials' => $trials, 'how' => 'regression on log-odds'], 409);
        }
    }

    /** A record's reasons add up, and another value of a column can be imagined. */
    private function isAccountedFor(string $name, int $trial): void
    {
        $reasons = $this->call('GET', "/api/trials/$trial/reasons/3");
        $account = $reasons['account'];
        self::assertNotNull($account, $name);
        $sum = $account['base'] + array_sum(array_column($account['columns'], 'effect'));
        self::assertEqualsWithDelta($account['answer'], $sum, 1e-6 * max(1.0, abs($account['answer'])), $name);
        self::assertSame('neighbors' === $name, $reasons['neighbors']['own'], $name);
        if ('neighbors' === $name && !$reasons['sealed']) {
            self::assertContains(3, $reasons['neighbors']['nearest'], 'a training row is nearest to itself');
        }
        $imagined = $this->call('POST', "/api/trials/$trial/reasons/3/imagine", ['changes' => ['days' => '29']]);
        self::assertEquals(
            $imagined['before'],
            $this->call('POST', "/api/trials/$trial/reasons/3/imagine", ['changes' => []])['after'],
            $name,
        );
    }
}
