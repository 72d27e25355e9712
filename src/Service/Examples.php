<?php

declare(strict_types=1);

namespace App\Service;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Table\Kind;

/** How a service is called, from a real record. */
final class Examples
{
    /**
     * @param array<array-key, ?string> $cells
     * @param array<array-key, Kind>    $kinds
     *
     * @return array<array-key, float|int|string|null> as JSON has it
     */
    public static function record(array $cells, array $kinds): array
    {
        $out = [];
        foreach ($kinds as $name => $kind) {
            $cell = $cells[$name] ?? null;
            $number = Kind::Number === $kind && null !== $cell ? (new CellParser())->number($cell) : null;
            $out[$name] = null === $number ? $cell : ((float) (int) $number === $number ? (int) $number : $number);
        }

        return $out;
    }

    /**
     * @param string                                       $path   what stands behind the host
     * @param array<array-key, float|int|string|bool|null> $record
     *
     * @return list<ExampleView>
     */
    public static function of(string $path, array $record): array
    {
        $json = json_encode((object) $record, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
        $shell = str_replace("'", "'\\''", $json);
        $php = var_export($record, true);
        $python = strtr($json, ['null' => 'None']);

        return [
            new ExampleView('curl', <<<TEXT
                curl -X POST {host}$path \\
                  -H "Authorization: Bearer \$TOKEN" \\
                  -H "Content-Type: application/json" \\
                  -d '$shell'
                TEXT),
            new ExampleView('PHP', <<<TEXT
                \$answer = json_decode(file_get_contents('{host}$path', false, stream_context_create(['http' => [
                    'method' => 'POST',
                    'header' => ['Authorization: Bearer '.\$token, 'Content-Type: application/json'],
                    'content' => json_encode($php),
                    'ignore_errors' => true,
                ]])), true);
                TEXT),
            new ExampleView('Python', <<<TEXT
                import json, urllib.request

                request = urllib.request.Request(
                    '{host}$path',
                    data=json.dumps($python).encode(),
                    headers={'Authorization': f'Bearer {token}', 'Content-Type': 'application/json'},
                )
                answer = json.load(urllib.request.urlopen(request))
                TEXT),
            new ExampleView('JavaScript', <<<TEXT
                const answer = await fetch('{host}$path', {
                  method: 'POST',
                  headers: { Authorization: `Bearer \${token}`, 'Content-Type': 'application/json' },
                  body: JSON.stringify($json),
                }).then((r) => r.json())
                TEXT),
        ];
    }
}
