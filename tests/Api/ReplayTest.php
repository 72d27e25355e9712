<?php

declare(strict_types=1);

namespace App\Tests\Api;

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
}
