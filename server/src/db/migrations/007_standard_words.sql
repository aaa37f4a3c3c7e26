-- Standard words: a threshold is chosen by a method.

alter table thresholds rename column way to method;
alter table thresholds rename constraint thresholds_way_check to thresholds_method_check;

-- Lessons name the method that a step is about. As text: inside a string the quotes would be written \".
update lessons set definition = replace(definition::text, '"school":', '"method":')::jsonb
where definition::text like '%"school":%';
update lesson_versions set definition = replace(definition::text, '"school":', '"method":')::jsonb
where definition::text like '%"school":%';
