<?php

declare(strict_types=1);

namespace App\Service;

use App\Approval\Approval;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Task\Task;

/** What a caller has to know, as an OpenAPI 3.1 document. */
final class ServiceDocument
{
    /**
     * @param array<array-key, mixed>                      $properties of a record
     * @param array<array-key, float|int|string|bool|null> $example
     *
     * @return array<string, mixed>
     */
    public static function of(string $name, ServiceVersion $version, ScoringModel $scoring, array $properties, array $example): array
    {
        $approval = $version->approval();
        $number = ['type' => ['number', 'null']];
        $answer = match ($scoring->task) {
            Task::TWO => [
                'chance' => ['type' => 'number', 'description' => \sprintf('of %s being %s', $scoring->target, $scoring->event)],
                'chance_low' => $number,
                'chance_high' => $number,
                'call' => ['type' => 'boolean', 'description' => \sprintf('from a chance of %s on', json_encode($approval->cutoff()))],
            ],
            Task::MORE => [
                'class' => ['enum' => $scoring->classes()],
                'chances' => ['type' => 'object', 'additionalProperties' => ['type' => 'number']],
                'set_90' => ['type' => 'array', 'items' => ['type' => 'string'], 'description' => 'holds what comes in 90 of 100 records'],
            ],
            default => ['predicted' => ['type' => 'number'], 'low_80' => $number, 'high_80' => $number],
        };

        return [
            'openapi' => '3.1.0',
            'info' => [
                'title' => $name,
                'version' => (string) $version->number(),
                'description' => $approval->sentence()."\n\nNot to be used for: ".$approval->limits(),
            ],
            'paths' => ['/serve/'.$name => ['post' => [
                'summary' => \sprintf('Predicts %s for one record, or for up to %s', $scoring->target, number_format(Answerer::MOST)),
                'security' => [['token' => []]],
                'parameters' => [
                    [
                        'name' => 'reasons',
                        'in' => 'query',
                        'schema' => ['type' => 'string', 'enum' => ['0', '1']],
                        'description' => \sprintf('1 asks for reasons, of up to %d records', Answerer::MOST_REASONS),
                    ],
                ],
                'requestBody' => ['required' => true, 'content' => ['application/json' => [
                    'schema' => [
                        'oneOf' => [
                            ['$ref' => '#/components/schemas/Record'],
                            ['type' => 'array', 'items' => ['$ref' => '#/components/schemas/Record'], 'maxItems' => Answerer::MOST],
                        ],
                    ],
                    'example' => (object) $example,
                ]]],
                'responses' => [
                    '200' => ['description' => 'An answer, or a list of them', 'content' => ['application/json' => ['schema' => ['oneOf' => [
                        ['$ref' => '#/components/schemas/Answer'],
                        [
                            'type' => 'object',
                            'properties' => [
                                'answers' => ['type' => 'array', 'items' => ['$ref' => '#/components/schemas/Answer']],
                                'version' => ['type' => 'integer'],
                                'took_ms' => ['type' => 'number'],
                            ],
                        ],
                    ]]]]],
                    '401' => ['description' => 'The token is unknown, revoked, or has expired'],
                    '403' => ['description' => 'The token may not ask for reasons'],
                    '422' => ['description' => 'Why it is not answered, in a sentence'],
                    '429' => ['description' => 'Too many calls; Retry-After says how long to wait'],
                    '503' => ['description' => 'The service is paused'],
                ],
            ]]],
            'components' => [
                'securitySchemes' => ['token' => ['type' => 'http', 'scheme' => 'bearer']],
                'schemas' => [
                    'Record' => [
                        'type' => 'object',
                        'properties' => (object) $properties,
                        'required' => Approval::REFUSE === $approval->rule() ? array_map(strval(...), array_keys($properties)) : [],
                        'description' => Approval::REFUSE === $approval->rule()
                            ? 'Every column is given, as null where it has no value; unknown columns are refused.'
                            : 'A column that is not given, or not known, makes an answer of low confidence.',
                    ],
                    'Answer' => ['type' => 'object', 'properties' => $answer + [
                        'confidence' => ['enum' => ['high', 'fair', 'low']],
                        'remarks' => ['type' => 'array', 'items' => ['type' => 'string']],
                        'because' => [
                            'type' => 'array',
                            'items' => [
                                'type' => 'object',
                                'properties' => [
                                    'column' => ['type' => 'string'],
                                    'value' => ['type' => ['string', 'null']],
                                    'points' => ['type' => 'number'],
                                ],
                            ],
                        ],
                        'refused' => ['type' => 'string'],
                        'version' => ['type' => 'integer'],
                        'took_ms' => ['type' => 'number'],
                    ]],
                ],
            ],
        ];
    }
}
