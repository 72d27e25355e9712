<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** A study leaves as one file, and is followed in another study of the same records. */
final class ReplayTest extends ApiTestCase
{
    public function testAStudyIsFollowedInAnotherOne(): void
    {
        $this->signIn();
        $this->client->request('GET', '/api/studies/2/saved');
        $file = (string) $this->client->getResponse()->getContent();
        self::assertStringContainsString(
            'Nobody_home.study.json',
            (string) $this->client->getResponse()->headers->get('Content-Disposition'),
        );
        /** @var array<string, mixed> $saved */
        $saved = json_decode($file, true, 512, \JSON_THROW_ON_ERROR);
        self::assertSame(['dokimos-study/1', 'Nobody home', 2], [$saved['schema'], $saved['name'], \count((array) $saved['trials'])]);

        $other = $this->call('POST', '/api/studies', ['name' => 'Again', 'question' => ''], 201)['id'];
        $says = $this->call('POST', "/api/studies/$other/replay", ['file' => $file])['says'];
        self::assertContains('The table visits is not here: import it under this name.', $says);
        self::assertContains('No trial is done again: the target is not here.', $says);
        self::assertCount(0, $this->call('GET', "/api/studies/$other")['trials']);
        foreach (['' => 422, 'x' => 422, '[]' => 422, '{"schema": "dokimos-study/2"}' => 422] as $text => $status) {
            $this->call('POST', "/api/studies/$other/replay", ['file' => (string) $text], $status);
        }
        // In a study that has the records it begins the same trials.
        $says = $this->call('POST', '/api/studies/2/replay', ['file' => $file])['says'];
        self::assertSame([], $says);
        $this->work();
        self::assertCount(4, $this->call('GET', '/api/studies/2')['trials']);
    }
}
