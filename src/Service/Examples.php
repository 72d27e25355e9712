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
            new ExampleView('curl', "curl -X POST {host}$path \\\n  -H \"Authorization: Bearer \$TOKEN\" \\\n  -H \"Content-Type: application/json\" \\\n  -d '$shell'"),
            new ExampleView('PHP', "\$answer = json_decode(file_get_contents('{host}$path', false, stream_context_create(['http' => [\n    'method' => 'POST',\n    'header' => ['Authorization: Bearer '.\$token, 'Content-Type: application/json'],\n    'content' => json_encode($php),\n    'ignore_errors' => true,\n]])), true);"),
            new ExampleView('Python', "import json, urllib.request\n\nrequest = urllib.request.Request(\n    '{host}$path',\n    data=json.dumps($python).encode(),\n    headers={'Authorization': f'Bearer {token}', 'Content-Type': 'application/json'},\n)\nanswer = json.load(urllib.request.urlopen(request))"),
            new ExampleView('JavaScript', "const answer = await fetch('{host}$path', {\n  method: 'POST',\n  headers: { Authorization: `Bearer \${token}`, 'Content-Type': 'application/json' },\n  body: JSON.stringify($json),\n}).then((r) => r.json())"),
        ];
    }
}
