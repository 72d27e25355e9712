<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Search\Search;
use Dokimos\Core\Learners\Learners;

/** A study leaves as one file, and is done again where the same records are: trials, searches, batches and lists to the last bit. */
final class ReplayTest extends ApiTestCase
{
    private function saved(int $study): string
    {
        $this->client->request('GET', "/api/studies/$study/saved");

        return (string) $this->client->getResponse()->getContent();
    }

    public function testASearchABlendABatchAndAListComeOutTheSame(): void
    {
        $this->signIn();
        $study = $this->call('GET', '/api/studies/2');
        $variant = $this->call('GET', '/api/studies/2/preparation')['variants'][0]['id'];
        $this->call('POST', '/api/studies/2/searches', [
            'spaces' => [['learner' => 'tree', 'settings' => ['depth' => ['list' => [2, 3]]]]], 'variantIds' => [$variant],
        ], 202);
        $this->call('POST', '/api/studies/2/trials', ['variantId' => $variant, 'learner' => 'logistic'], 202);
        $this->work();
        $trials = $this->call('GET', '/api/studies/2')['trials'];
        self::assertCount(4, $trials);
        $this->call('POST', '/api/studies/2/blends', ['trials' => \array_slice(array_column($trials, 'id'), 0, 2), 'how' => 'mean'], 202);
        $batch = $this->call('POST', '/api/studies/2/scorings', [
            'trialId' => $trials[0]['id'], 'tableId' => $study['tableId'], 'cutoff' => 0.2, 'match' => new \stdClass(),
        ], 202)['subject'];
        $this->work();
        $this->call('POST', "/api/scorings/$batch/decisions", ['name' => 'By May'], 201);
        $file = $this->saved(2);
        self::assertStringContainsString(
            'Nobody_home.study.json',
            (string) $this->client->getResponse()->headers->get('Content-Disposition'),
        );
        /** @var array<string, list<mixed>> $saved */
        $saved = json_decode($file, true, 512, \JSON_THROW_ON_ERROR);
        self::assertSame(
            [5, 1, 1, 1],
            array_map(static fn (string $k): int => \count($saved[$k]), ['trials', 'searches', 'scorings', 'decisions']),
        );

        // The study has the records: all of it is begun here once more, as far as it can be at each step.
        $view = $this->call('POST', '/api/studies/2/replay', ['file' => $file]);
        self::assertSame([[], 5, 2], [$view['differs'], $view['waiting'], $view['waitingLists']]);
        for ($step = 0; $step < 3; ++$step) {
            $this->work();
            $view = $this->call('POST', '/api/studies/2/replay', []);
        }
        self::assertSame([[], [], 5, 0, 2, 0], [
            $view['differs'], $view['not'], $view['same'], $view['waiting'], $view['sameLists'], $view['waitingLists'],
        ]);
        self::assertCount(10, $this->call('GET', '/api/studies/2')['trials']);
        self::assertSame($view, $this->call('GET', '/api/studies/2/replay'));
    }

    private function import(int $study, string $csv, string $name): int
    {
        $job = $this->call('POST', "/api/studies/$study/tables", ['uploadId' => $this->upload($csv), 'name' => $name], 202);
        $this->work();
        \assert(\is_int($job['subject']));

        return $job['subject'];
    }

    /** Elsewhere the tables have other numbers, one of them is made anew, and a deadline would leave room for something else. */
    public function testAMadeTableAndAGuidedSearchAreDoneAgainElsewhere(): void
    {
        $this->signIn();
        $calls = "caller,minutes,again\n";
        $people = "id,area,age\n";
        for ($i = 0; $i < 400; ++$i) {
            $calls .= \sprintf("P%03d,%d,%s\n", $i % 100, $i % 17, ($i * 7919 + intdiv($i, 3) * 31) % 10 < ($i % 2 ? 2 : 6) ? 'yes' : 'no');
            $people .= $i < 100 ? \sprintf("P%03d,%s,%d\n", $i, $i % 2 ? 'north' : 'south', 20 + $i % 41) : '';
        }
        $study = $this->call('POST', '/api/studies', ['name' => 'Called again', 'question' => 'Who calls again?'], 201)['id'];
        $one = $this->import($study, $calls, 'calls');
        $other = $this->import($study, $people, 'people');
        $made = $this->call('POST', "/api/studies/$study/combinations", [
            'tableId' => $one, 'otherId' => $other, 'name' => 'calls of people',
            'combination' => ['kind' => 'look up', 'key' => 'caller', 'otherKey' => 'id', 'columns' => ['area', 'age']],
        ], 202)['subject'];
        $this->work();
        $version = (string) $this->call('GET', "/api/studies/$study")['version'];
        $asked = ['column' => 'again', 'event' => 'yes', 'tableId' => $made, 'sealedShare' => 0.2];
        $this->call('PUT', "/api/studies/$study/target", $asked, 200, ['If-Match' => $version]);
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0];
        $used = array_diff(array_column(Learners::all(), 'name'), ['tree', 'logistic']);
        $guided = $this->call('POST', "/api/studies/$study/guided", [
            'variantId' => $variant['id'], 'minutes' => 0.5, 'without' => array_values($used),
        ], 202)['subject'];
        $search = $this->entities()->find(Search::class, $guided);
        self::assertNotNull($search);
        // Nearly all of the half minute is over when it begins: no idea is weighed, and rungs hold few.
        $search->stand(['begun' => microtime(true) - 28.0] + $search->asked(), 0);
        $this->entities()->flush();
        $this->work();
        $found = $this->call('GET', "/api/guided/$guided");
        self::assertSame(['done', 0, 4], [$found['state'], \count($found['ideas']), $found['rungs'][0]['tries']]);
        // A trial that no longer stands is told, and not done again; nor is what was scored by it.
        $other = $this->call('POST', "/api/studies/$study/variants", ['name' => 'Without minutes'], 201)['id'];
        $stale = $this->call('POST', "/api/studies/$study/trials", ['variantId' => $other, 'learner' => 'tree'], 202)['subject'];
        $this->work();
        $this->call('POST', "/api/studies/$study/scorings", [
            'trialId' => $stale, 'tableId' => $made, 'cutoff' => 0.2, 'match' => new \stdClass(),
        ], 202);
        $this->work();
        $steps = [['step' => 'drop_columns', 'columns' => ['minutes']]];
        $version = (string) array_column($this->call('GET', "/api/studies/$study/preparation")['variants'], 'version', 'id')[$other];
        $this->call('PUT', "/api/variants/$other", ['steps' => $steps], 200, ['If-Match' => $version]);
        $this->call('POST', "/api/studies/$study/trials", ['variantId' => $other, 'learner' => 'tree'], 202);
        $this->work();

        $file = $this->saved($study);
        $there = $this->call('POST', '/api/studies/replay', ['file' => $file], 201)['studyId'];
        self::assertSame(
            ['calls' => 'missing', 'people' => 'missing', 'calls of people' => 'made here'],
            array_column($this->call('POST', "/api/studies/$there/replay", [])['sources'], 'state', 'name'),
        );
        $this->import($there, $people, 'people');
        $this->import($there, $calls, 'calls');
        for ($step = 0; $step < 4; ++$step) {
            $this->call('POST', "/api/studies/$there/replay", []);
            $this->work();
        }
        $view = $this->call('GET', "/api/studies/$there/replay");
        self::assertSame(['same', 'same', 'same'], array_column($view['sources'], 'state'));
        self::assertSame([[], 3, 0, 0, 0], [$view['differs'], $view['same'], $view['waiting'], $view['sameLists'], $view['waitingLists']]);
        $again = array_values(array_filter($this->call('GET', "/api/studies/$there/searches"), static fn (array $s): bool => $s['guided']));
        $twin = $this->call('GET', '/api/guided/'.$again[0]['id']);
        self::assertSame([0, array_column($found['rungs'], 'tries')], [\count($twin['ideas']), array_column($twin['rungs'], 'tries')]);
        self::assertStringContainsString('it was stale when the file was written, for the steps of variant B', $view['not'][0]);
        self::assertStringContainsString('The batch of calls of people by trial 3 is not done again', $view['not'][1]);
    }

    /** What stands in a file is held to what a page may ask: whatever is wrong in it ends in a sentence. */
    public function testAFileThatWasWrittenOverIsRefusedWithASentence(): void
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/2/preparation')['variants'][0]['id'];
        $this->call('POST', '/api/studies/2/searches', [
            'spaces' => [['learner' => 'tree', 'settings' => ['depth' => ['list' => [2, 3]]]]], 'variantIds' => [$variant],
        ], 202);
        $without = array_values(array_diff(array_column(Learners::all(), 'name'), ['tree']));
        $this->call('POST', '/api/studies/2/guided', ['variantId' => $variant, 'tries' => 4, 'without' => $without], 202);
        $this->work();
        $saved = json_decode($this->saved(2), false, 512, \JSON_THROW_ON_ERROR);
        \assert($saved instanceof \stdClass);
        $answers = [];
        $odd = [null, 'odd', -7, [], new \stdClass()];
        foreach ($this->placesOf($saved, []) as $i => $path) {
            $wrong = $odd[$i % 5];
            $this->client->jsonRequest('POST', '/api/studies/2/replay', [
                'file' => json_encode($this->with($saved, $path, $wrong), \JSON_THROW_ON_ERROR),
            ]);
            $answer = $this->client->getResponse();
            self::assertLessThan(500, $answer->getStatusCode(), implode('.', $path).' as '.json_encode($wrong).': '.$answer->getContent());
            $answers[$answer->getStatusCode()][] = implode('.', $path);
        }
        self::assertGreaterThan(60, \count($answers[422] ?? []), (string) json_encode($answers));
    }

    public function testAStudyBeginsFromAFileAndWaitsForItsTables(): void
    {
        $this->signIn();
        $file = $this->saved(2);
        foreach (['x' => 422, '[]' => 422, '{"schema": "dokimos-study/2"}' => 422] as $text => $status) {
            $this->call('POST', '/api/studies/replay', ['file' => $text], $status);
        }
        $this->call('POST', '/api/studies/replay', ['file' => ''], 422);
        $id = $this->call('POST', '/api/studies/replay', ['file' => $file], 201)['studyId'];
        self::assertSame('Nobody home', $this->call('GET', "/api/studies/$id")['name']);
        $view = $this->call('POST', "/api/studies/$id/replay", []);
        self::assertContains('missing', array_column($view['sources'], 'state', 'name'));
        self::assertSame([0, 2], [$view['same'], $view['waiting']]);
        self::assertCount(0, $this->call('GET', "/api/studies/$id")['trials']);
        // Another study follows none.
        $this->call('GET', '/api/studies/1/replay', null, 404);
        $this->call('POST', '/api/studies/1/replay', [], 409);
        $this->call('POST', '/api/studies/1/replay', ['file' => '{}'], 422);
    }

    /**
     * One of each kind of place: the first of a list stands for all, of searches the first two, which are of two kinds.
     *
     * @param list<int|string> $path
     *
     * @return list<list<int|string>>
     */
    private function placesOf(mixed $of, array $path): array
    {
        $out = [] === $path ? [] : [$path];
        $inside = match (true) {
            \is_array($of) => \array_slice($of, 0, ['searches'] === $path ? 2 : 1),
            $of instanceof \stdClass => get_object_vars($of),
            default => [],
        };
        foreach ($inside as $key => $value) {
            array_push($out, ...$this->placesOf($value, [...$path, $key]));
        }

        return $out;
    }

    /** @param list<int|string> $path */
    private function with(mixed $of, array $path, mixed $value): mixed
    {
        if ([] === $path) {
            return $value;
        }
        $key = array_shift($path);
        if (\is_array($of)) {
            $of[$key] = $this->with($of[$key], $path, $value);
        } elseif ($of instanceof \stdClass) {
            $of = clone $of;
            $of->{$key} = $this->with($of->{$key}, $path, $value);
        }

        return $of;
    }
}
